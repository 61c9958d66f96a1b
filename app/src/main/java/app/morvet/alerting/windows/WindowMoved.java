package app.morvet.alerting.windows;

/** A time of a window has begun or ended; told within the transaction that notes it. */
public sealed interface WindowMoved {
    StoredWindow window();

    Windows.Time time();

    /** It has begun, or it is on and ends at another time than before. */
    record Begun(StoredWindow window, Windows.Time time) implements WindowMoved {}

    record Ended(StoredWindow window, Windows.Time time) implements WindowMoved {}
}
