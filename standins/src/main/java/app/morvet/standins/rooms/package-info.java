/** A chat with rooms, and a paging service: both take web calls. */
@NullMarked
package app.morvet.standins.rooms;

import org.jspecify.annotations.NullMarked;
