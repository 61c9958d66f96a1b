/** Teams and who of them is on duty, when. */
@NullMarked
package app.morvet.ground.duty;

import org.jspecify.annotations.NullMarked;
