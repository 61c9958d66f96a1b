/** The endpoints of Sundrava that are asked whether they answer, and the panel where they are made not to. */
@NullMarked
package app.morvet.standins.endpoints;

import org.jspecify.annotations.NullMarked;
