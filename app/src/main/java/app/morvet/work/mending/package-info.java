/** Mending: failed messages are dealt with, handed off, and sent again at their middleware. */
@NullMarked
package app.morvet.work.mending;

import org.jspecify.annotations.NullMarked;
