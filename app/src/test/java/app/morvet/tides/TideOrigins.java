package app.morvet.tides;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.OriginKind;
import app.morvet.core.alert.Origin;
import org.springframework.stereotype.Component;

/** A sort of rule that is only in tests: what a new one needs, and no more. */
@Component
class TideOrigins implements OriginKind {
    static final String KIND = "tide";

    static Origin origin(long table) {
        return new Origin(KIND, table);
    }

    @Override
    public String kind() {
        return KIND;
    }

    @Override
    public String noun() {
        return "the tide table";
    }

    @Override
    public String name(Alert alert) {
        return "Tide table " + alert.origin().id();
    }

    @Override
    public String sentence(Alert alert) {
        return "Warn when the water is lower than the ramp.";
    }

    @Override
    public String link(Alert alert) {
        return "/tides/" + alert.origin().id();
    }

    @Override
    public String fixNote(Alert alert) {
        return "Ask for the **long ramp**.";
    }

    @Override
    public String value(Alert alert, double value) {
        return "%.0f cm under the ramp".formatted(value);
    }

    @Override
    public String limits(Alert alert) {
        return "warn above 10 cm";
    }
}
