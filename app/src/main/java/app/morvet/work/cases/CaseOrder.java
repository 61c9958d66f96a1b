package app.morvet.work.cases;

import java.util.Comparator;
import java.util.Locale;

/** In what order open cases stand, by the name that stands in the address. */
enum CaseOrder {
    URGENT(Comparator.comparing(CaseViews.Ranked::urgency).reversed().thenComparing(CaseViews.Ranked::id)),
    NEWEST(Comparator.comparing(CaseViews.Ranked::id).reversed());

    private final Comparator<CaseViews.Ranked> by;

    CaseOrder(Comparator<CaseViews.Ranked> by) {
        this.by = by;
    }

    Comparator<CaseViews.Ranked> by() {
        return by;
    }

    String key() {
        return name().toLowerCase(Locale.ROOT);
    }

    static CaseOrder of(String key) {
        return key.equals(NEWEST.key()) ? NEWEST : URGENT;
    }
}
