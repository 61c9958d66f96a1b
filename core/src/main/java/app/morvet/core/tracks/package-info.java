/** Time as a picture: tracks under one another on one axis. */
@NullMarked
package app.morvet.core.tracks;

import org.jspecify.annotations.NullMarked;
