/** Orders to schedulers: run a job again, hold it, release it, kill a run; each audited, with what came of it. */
@NullMarked
package app.morvet.work.orders;

import org.jspecify.annotations.NullMarked;
