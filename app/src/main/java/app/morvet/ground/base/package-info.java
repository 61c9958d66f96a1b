/** What every feature stands on: settings, the clock, and instants in the store. */
@NullMarked
package app.morvet.ground.base;

import org.jspecify.annotations.NullMarked;
