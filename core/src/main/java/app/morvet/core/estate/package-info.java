/** Everything watched, and how much it matters. */
@NullMarked
package app.morvet.core.estate;

import org.jspecify.annotations.NullMarked;
