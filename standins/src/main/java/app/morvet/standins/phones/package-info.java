/** A gateway for text messages, and the telephones that they arrive on. */
@NullMarked
package app.morvet.standins.phones;

import org.jspecify.annotations.NullMarked;
