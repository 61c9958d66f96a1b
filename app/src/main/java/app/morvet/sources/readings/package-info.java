/** Readings: measures and series that register themselves, readings stored in bulk, sealed day by day, read as one. */
@NullMarked
package app.morvet.sources.readings;

import org.jspecify.annotations.NullMarked;
