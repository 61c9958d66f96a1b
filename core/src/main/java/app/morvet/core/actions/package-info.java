/** What is done by machines on somebody's behalf: what becomes of an order, and what a guard may have done by itself. */
@NullMarked
package app.morvet.core.actions;

import org.jspecify.annotations.NullMarked;
