/** Guards over runs: what they find in the night, live, and the alerts that come of it. */
@NullMarked
package app.morvet.rules.runguards;

import org.jspecify.annotations.NullMarked;
