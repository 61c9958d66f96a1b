package app.morvet.work.cases;

import java.util.Comparator;
import java.util.Locale;

/** In what order open cases stand, by the name that stands in the address. */
enum CaseOrder {
    URGENT(Comparator.comparing(Ranked::urgency).reversed().thenComparing(Ranked::id)),
    NEWEST(Comparator.comparing(Ranked::id).reversed());

    private final Comparator<Ranked> by;

    CaseOrder(Comparator<Ranked> by) {
        this.by = by;
    }

    Comparator<Ranked> by() {
        return by;
    }

    String key() {
        return name().toLowerCase(Locale.ROOT);
    }

    static CaseOrder of(String key) {
        return key.equals(NEWEST.key()) ? NEWEST : URGENT;
    }
}
