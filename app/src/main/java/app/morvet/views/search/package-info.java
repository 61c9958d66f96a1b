/** One box that finds cases, interfaces and messages. */
@NullMarked
package app.morvet.views.search;

import org.jspecify.annotations.NullMarked;
