package app.morvet.work.cases;

import java.util.Comparator;
import java.util.Locale;

/** In what order open cases stand, by the name that stands in the address. */
enum CaseOrder {
    URGENT(Comparator.comparing(CaseViews.Row::urgency).reversed().thenComparing(CaseViews.Row::id)),
    NEWEST(Comparator.comparing(CaseViews.Row::id).reversed());

    private final Comparator<CaseViews.Row> by;

    CaseOrder(Comparator<CaseViews.Row> by) {
        this.by = by;
    }

    Comparator<CaseViews.Row> by() {
        return by;
    }

    String key() {
        return name().toLowerCase(Locale.ROOT);
    }

    static CaseOrder of(String key) {
        return key.equals(NEWEST.key()) ? NEWEST : URGENT;
    }
}
