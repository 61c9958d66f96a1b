/** The pages of Batch: the plan of the night, jobs, runs, what if, months, files, calendars and guards over runs. */
@NullMarked
package app.morvet.views.nights;

import org.jspecify.annotations.NullMarked;
