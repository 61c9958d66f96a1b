/** The first place: what happened, what is open, who has it, what is coming. */
@NullMarked
package app.morvet.views.shift;

import org.jspecify.annotations.NullMarked;
