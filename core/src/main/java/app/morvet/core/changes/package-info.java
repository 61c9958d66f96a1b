/** What became different about components. */
@NullMarked
package app.morvet.core.changes;

import org.jspecify.annotations.NullMarked;
