@NullMarked
package app.morvet.standins.id;

import org.jspecify.annotations.NullMarked;
