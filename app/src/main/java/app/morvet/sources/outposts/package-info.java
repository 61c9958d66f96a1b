/** Small programs of Morvet's on hosts and in network zones: what they are to look at, and what they tell. */
@NullMarked
package app.morvet.sources.outposts;

import org.jspecify.annotations.NullMarked;
