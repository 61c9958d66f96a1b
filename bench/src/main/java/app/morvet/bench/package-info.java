/** Speed, as a ratio to a limit measured in the same run. */
@NullMarked
package app.morvet.bench;

import org.jspecify.annotations.NullMarked;
