/** The ordered list of sorting rules. */
@NullMarked
package app.morvet.sources.sorting;

import org.jspecify.annotations.NullMarked;
