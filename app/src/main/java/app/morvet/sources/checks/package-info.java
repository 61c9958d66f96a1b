/** What Morvet asks of things outside itself, again and again, and what comes of it. */
@NullMarked
package app.morvet.sources.checks;

import org.jspecify.annotations.NullMarked;
