package app.morvet.work.cases;

/** Somebody else did something to the case in between; nothing of what was asked for is done. The message says who. */
public final class Overtaken extends RuntimeException {
    private static final long serialVersionUID = 1;

    Overtaken(String message) {
        super(message);
    }
}
