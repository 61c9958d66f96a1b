/** Sorting rules: what a failed message is, told by an ordered list. */
@NullMarked
package app.morvet.core.sorting;

import org.jspecify.annotations.NullMarked;
