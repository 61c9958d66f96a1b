/** What components are in: since when, what it was before, and what they said of it. */
@NullMarked
package app.morvet.sources.states;

import org.jspecify.annotations.NullMarked;
