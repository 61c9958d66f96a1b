/** Telling people: who is told what, by which channel, and whether it got through. */
@NullMarked
package app.morvet.work.callouts;

import org.jspecify.annotations.NullMarked;
