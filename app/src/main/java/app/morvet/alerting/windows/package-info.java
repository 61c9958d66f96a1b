/** Maintenance windows: when they are on, what they hold, and what they let go when they end. */
@NullMarked
package app.morvet.alerting.windows;

import org.jspecify.annotations.NullMarked;
