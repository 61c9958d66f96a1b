/** Links out of Morvet: where to look further, filled with the facts of what is looked at. */
@NullMarked
package app.morvet.views.links;

import org.jspecify.annotations.NullMarked;
