/** What a machine knows: a condition on a subject, from raised to cleared. */
@NullMarked
package app.morvet.core.alert;

import org.jspecify.annotations.NullMarked;
