package app.morvet.core.sorting;

/**
 * A text that can be looked at only so often. The JDK's patterns backtrack, and some take time that grows with every
 * character; every look goes through {@link #charAt}, so counting there stops any of them, in the thread that runs it.
 */
public final class BoundedText implements CharSequence {
    /** About ten milliseconds; a sound pattern needs a few looks for each character. */
    public static final int MOST_LOOKS = 2_000_000;

    private final CharSequence text;
    private final int[] left;

    public BoundedText(CharSequence text) {
        this(text, new int[] {MOST_LOOKS});
    }

    private BoundedText(CharSequence text, int[] left) {
        this.text = text;
        this.left = left;
    }

    /** @throws TooSlow after {@link #MOST_LOOKS} looks at this text and all its parts together */
    @Override
    public char charAt(int index) {
        if (--left[0] < 0) throw new TooSlow(MOST_LOOKS);
        return text.charAt(index);
    }

    @Override
    public int length() {
        return text.length();
    }

    @Override
    public CharSequence subSequence(int start, int end) {
        return new BoundedText(text.subSequence(start, end), left);
    }

    @Override
    public String toString() {
        return text.toString();
    }
}
