/** Tickets to vendors: what we saw, sent by mail until their server has taken it. */
@NullMarked
package app.morvet.work.tickets;

import org.jspecify.annotations.NullMarked;
