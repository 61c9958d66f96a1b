/** What vendors say of the instances that are rented from them: their feeds, read into states and bulletins. */
@NullMarked
package app.morvet.core.vendors;

import org.jspecify.annotations.NullMarked;
