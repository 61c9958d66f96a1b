/** What an outpost is to look at: put together from what is asked of all, of some, of one. */
@NullMarked
package app.morvet.core.outposts;

import org.jspecify.annotations.NullMarked;
