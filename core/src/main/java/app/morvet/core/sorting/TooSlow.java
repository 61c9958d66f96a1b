package app.morvet.core.sorting;

/** A pattern looked at more characters than it may; what was asked is not known. */
public final class TooSlow extends RuntimeException {
    private static final long serialVersionUID = 1;

    TooSlow(int most) {
        super("stopped after %,d looks at the text".formatted(most), null, false, false);
    }
}
