/** What is made of failed messages: alerts by what folds into one, and the list of sorting rules tried on them. */
@NullMarked
package app.morvet.rules.failures;

import org.jspecify.annotations.NullMarked;
