/** What interfaces carry and what they could not deliver. */
@NullMarked
package app.morvet.sources.messages;

import org.jspecify.annotations.NullMarked;
