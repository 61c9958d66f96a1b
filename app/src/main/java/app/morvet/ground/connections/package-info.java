/** What is called outside: where, with which headers and secrets, how it is asked and how that went. */
@NullMarked
package app.morvet.ground.connections;

import org.jspecify.annotations.NullMarked;
