package app.morvet.journey;

/**
 * Two classes of tests run at a time, one of each lane, in one process: so those of the shared house are in it one after the other,
 * and each lane takes about as long as the other.
 */
final class Lane {
    /** Of all that live in the shared house, and of some that have one of their own. */
    static final String SHARED = "shared";

    /** Of those that have a house of their own. */
    static final String OWN = "own";

    private Lane() {}
}
