/** Standing rules and their evaluation, pure: the same readings give the same transitions however they come in. */
@NullMarked
package app.morvet.core.guard;

import org.jspecify.annotations.NullMarked;
