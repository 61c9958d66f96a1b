/** What components are in, laid out along time. */
@NullMarked
package app.morvet.core.states;

import org.jspecify.annotations.NullMarked;
