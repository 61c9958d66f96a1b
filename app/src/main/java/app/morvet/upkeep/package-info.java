/** The Estate pages: what is watched, whose it is and what it stands on; looked through, named and assigned. */
@NullMarked
package app.morvet.upkeep;

import org.jspecify.annotations.NullMarked;
