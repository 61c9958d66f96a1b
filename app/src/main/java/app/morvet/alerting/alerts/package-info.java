/** Machine facts: a guard's condition on one subject, from raised to cleared. */
@NullMarked
package app.morvet.alerting.alerts;

import org.jspecify.annotations.NullMarked;
