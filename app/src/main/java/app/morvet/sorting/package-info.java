/** The ordered list of sorting rules. */
@NullMarked
package app.morvet.sorting;

import org.jspecify.annotations.NullMarked;
