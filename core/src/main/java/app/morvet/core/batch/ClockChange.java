package app.morvet.core.batch;

/** What the scheduler of a job does with a wall-clock time that does not come, or comes twice, when the clock is changed. */
public enum ClockChange {
    /** A time that does not come starts at the change itself; one that comes twice starts the first time. */
    ONCE,
    /** A time that does not come starts nothing; one that comes twice starts twice. */
    AS_SHOWN
}
