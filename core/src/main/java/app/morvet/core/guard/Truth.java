package app.morvet.core.guard;

/** Three-valued: what is not known is not false (Kleene's strong logic, 1938). */
public enum Truth {
    TRUE,
    FALSE,
    UNKNOWN;

    public Truth not() {
        return switch (this) {
            case TRUE -> FALSE;
            case FALSE -> TRUE;
            case UNKNOWN -> UNKNOWN;
        };
    }

    public Truth and(Truth other) {
        if (this == FALSE || other == FALSE) return FALSE;
        return this == TRUE && other == TRUE ? TRUE : UNKNOWN;
    }

    public Truth or(Truth other) {
        return not().and(other.not()).not();
    }
}
