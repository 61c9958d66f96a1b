package app.morvet.core.vendors;

import app.morvet.core.readings.StateWords;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What an instance of a vendor is in; planned work is none of it. The later the worse, but for what is not known. */
public enum VendorState {
    SERVES("serves"),
    IN_PART("serves in part"),
    NOT("does not serve"),
    UNKNOWN("not known");

    /** In the order of the constants, as they are kept. */
    public static final StateWords WORDS =
            new StateWords(Arrays.stream(values()).map(VendorState::words).toList());

    private final String words;

    VendorState(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    public static Optional<VendorState> of(String words) {
        var wanted = words.strip().toLowerCase(Locale.ROOT);
        return Arrays.stream(values()).filter(one -> one.words.equals(wanted)).findFirst();
    }

    /** The worst of some: trouble that is known before what is not known, and that before what serves; none serve. */
    public static VendorState worst(List<VendorState> some) {
        var known =
                some.stream().filter(one -> one != UNKNOWN).max(Enum::compareTo).orElse(SERVES);
        return known == SERVES && some.contains(UNKNOWN) ? UNKNOWN : known;
    }
}
