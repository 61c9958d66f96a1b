/** The place Vendors: rented instances with what their vendors say, what we see beside it, and what is planned. */
@NullMarked
package app.morvet.views.vendors;

import org.jspecify.annotations.NullMarked;
