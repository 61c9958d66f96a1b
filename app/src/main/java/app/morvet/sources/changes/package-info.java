/** What became different about components. */
@NullMarked
package app.morvet.sources.changes;

import org.jspecify.annotations.NullMarked;
