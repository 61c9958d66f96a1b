/** A case passed to its owning team as a ticket, sent for certain and followed to its end. */
@NullMarked
package app.morvet.work.handoffs;

import org.jspecify.annotations.NullMarked;
