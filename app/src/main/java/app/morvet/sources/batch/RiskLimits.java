package app.morvet.sources.batch;

import app.morvet.core.batch.Job;
import java.util.function.ToIntFunction;

/** Says of a job from which chance on its deadline is at risk. */
public interface RiskLimits {
    /** The chance in percent to make it, under which it is. */
    ToIntFunction<Job> limits();
}
