/** A mail server whose mails can be read on a page. */
@NullMarked
package app.morvet.standins.mailbox;

import org.jspecify.annotations.NullMarked;
