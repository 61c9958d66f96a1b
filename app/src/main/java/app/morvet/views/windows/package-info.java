/** The place Windows: planned work on a calendar, one window with what it held, and how one is made. */
@NullMarked
package app.morvet.views.windows;

import org.jspecify.annotations.NullMarked;
