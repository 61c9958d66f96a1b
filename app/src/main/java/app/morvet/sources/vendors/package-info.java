/** Instances rented from vendors: their feeds, polled and read, and what is kept of them. */
@NullMarked
package app.morvet.sources.vendors;

import org.jspecify.annotations.NullMarked;
