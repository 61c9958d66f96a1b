/** Asks what a check asks, once, and says what came of it. Morvet does it itself, and outposts do. */
@NullMarked
package app.morvet.probe;

import org.jspecify.annotations.NullMarked;
