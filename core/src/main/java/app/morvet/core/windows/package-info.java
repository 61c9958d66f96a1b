/** Maintenance windows: when they are, what they cover, what they hold and when they let it go. */
@NullMarked
package app.morvet.core.windows;

import org.jspecify.annotations.NullMarked;
