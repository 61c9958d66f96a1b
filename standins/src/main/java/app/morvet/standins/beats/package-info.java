/** What says nothing but that it is alive. */
@NullMarked
package app.morvet.standins.beats;

import org.jspecify.annotations.NullMarked;
