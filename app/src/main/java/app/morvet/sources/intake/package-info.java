/** The door for what comes in: CloudEvents are judged item by item, and what is refused is kept. */
@NullMarked
package app.morvet.sources.intake;

import org.jspecify.annotations.NullMarked;
