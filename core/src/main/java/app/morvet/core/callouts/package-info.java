/** Who is told of a critical case, in which order, until somebody has it. */
@NullMarked
package app.morvet.core.callouts;

import org.jspecify.annotations.NullMarked;
