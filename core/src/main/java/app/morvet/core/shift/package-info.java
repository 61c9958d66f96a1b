/** What whoever comes in wants to see at a look: the estate, what is new since they left, who had it. */
@NullMarked
package app.morvet.core.shift;

import org.jspecify.annotations.NullMarked;
