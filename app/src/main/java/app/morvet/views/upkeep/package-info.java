/** The Estate pages: what is watched, whose it is and what it stands on; looked through, named and assigned. */
@NullMarked
package app.morvet.views.upkeep;

import org.jspecify.annotations.NullMarked;
