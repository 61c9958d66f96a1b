/** The scheduler of the nightly jobs: starts them in the time of day of the stand-ins, and tells Morvet of each run. */
@NullMarked
package app.morvet.standins.scheduler;

import org.jspecify.annotations.NullMarked;
