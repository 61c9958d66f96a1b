/** The vendors from whom instances are rented: what is true of each, what its feed says, and the panel where both are changed. */
@NullMarked
package app.morvet.standins.vendors;

import org.jspecify.annotations.NullMarked;
