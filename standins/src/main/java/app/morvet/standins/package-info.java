/** The simulated estate of Sundrava Ferries and the services around it; they meet Morvet on the wire only. */
@NullMarked
package app.morvet.standins;

import org.jspecify.annotations.NullMarked;
