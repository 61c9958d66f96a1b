/** What every page shares: the frame, the now line, times in words, the live stream and errors. */
@NullMarked
package app.morvet.ground.page;

import org.jspecify.annotations.NullMarked;
