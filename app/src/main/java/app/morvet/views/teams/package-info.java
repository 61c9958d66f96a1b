/** Teams: who is in them, what they own, and who of them is on duty when. */
@NullMarked
package app.morvet.views.teams;

import org.jspecify.annotations.NullMarked;
