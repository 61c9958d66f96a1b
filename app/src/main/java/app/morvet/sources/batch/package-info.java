/** Scheduled jobs and their runs: what is agreed, what ran, how the night goes on, and what is wrong with it. */
@NullMarked
package app.morvet.sources.batch;

import org.jspecify.annotations.NullMarked;
