/** What interfaces carry and what a failed message holds. */
@NullMarked
package app.morvet.core.messages;

import org.jspecify.annotations.NullMarked;
