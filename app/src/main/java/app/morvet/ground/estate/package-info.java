/** What is watched and whose it is: teams, applications, components and feeds. */
@NullMarked
package app.morvet.ground.estate;

import org.jspecify.annotations.NullMarked;
