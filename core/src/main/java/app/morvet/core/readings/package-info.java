/** Readings: how they come in, how they are kept in little room, and the recent ones in memory. */
@NullMarked
package app.morvet.core.readings;

import org.jspecify.annotations.NullMarked;
