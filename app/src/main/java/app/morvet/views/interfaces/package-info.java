/** What interfaces carry: the page of what needs eyes, the map, and one interface. */
@NullMarked
package app.morvet.views.interfaces;

import org.jspecify.annotations.NullMarked;
