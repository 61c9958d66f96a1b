/** Components over time: what features know of them, drawn under one another on one axis. */
@NullMarked
package app.morvet.ground.tracks;

import org.jspecify.annotations.NullMarked;
