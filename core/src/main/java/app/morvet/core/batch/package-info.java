/** Scheduled jobs: when they should run, how their runs went, and how the night will go on. */
@NullMarked
package app.morvet.core.batch;

import org.jspecify.annotations.NullMarked;
