/** The unit of human work: its states, its urgency, its words. */
@NullMarked
package app.morvet.core.cases;

import org.jspecify.annotations.NullMarked;
