/** What a ticket desk is told and how its answer is read. */
@NullMarked
package app.morvet.core.handoff;

import org.jspecify.annotations.NullMarked;
