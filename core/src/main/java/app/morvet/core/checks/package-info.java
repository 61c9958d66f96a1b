/** What is asked of things outside, what is expected of their answers, and what comes of that. */
@NullMarked
package app.morvet.core.checks;

import org.jspecify.annotations.NullMarked;
