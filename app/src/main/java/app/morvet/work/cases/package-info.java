/** The unit of human work: alerts folded, ordered by urgency, acted on by people. */
@NullMarked
package app.morvet.work.cases;

import org.jspecify.annotations.NullMarked;
