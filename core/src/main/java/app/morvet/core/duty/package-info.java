/** Who is on duty, when: turns of people in lines, right across changes of the clock, with who covers whom. */
@NullMarked
package app.morvet.core.duty;

import org.jspecify.annotations.NullMarked;
