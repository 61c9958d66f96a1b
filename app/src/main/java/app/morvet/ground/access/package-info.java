/** Who may do what: people, their log-ins, intake keys, and the record of what people changed. */
@NullMarked
package app.morvet.ground.access;

import org.jspecify.annotations.NullMarked;
