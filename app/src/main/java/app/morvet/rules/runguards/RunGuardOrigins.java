package app.morvet.rules.runguards;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.OriginKind;
import app.morvet.core.alert.Origin;
import app.morvet.core.alert.Trouble;
import app.morvet.core.batch.RunGuard;
import app.morvet.core.batch.RunTrouble;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.StoredJob;
import app.morvet.sources.vendors.Vendors;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Guards over runs, as what raised an alert. */
@Component
class RunGuardOrigins implements OriginKind {
    static final String KIND = "run guard";

    private final RunGuards guards;
    private final JobBook jobs;

    RunGuardOrigins(RunGuards guards, JobBook jobs) {
        this.guards = guards;
        this.jobs = jobs;
    }

    static Origin origin(long guard) {
        return new Origin(KIND, guard);
    }

    private RunGuard judging(Alert alert) {
        return guards.byId(alert.origin().id()).rule();
    }

    private RunGuards.Stored guard(Alert alert) {
        return guards.byId(alert.origin().id());
    }

    @Override
    public String kind() {
        return KIND;
    }

    @Override
    public String noun() {
        return "the guard";
    }

    @Override
    public String name(Alert alert) {
        return guard(alert).name();
    }

    @Override
    public Trouble trouble(Alert alert) {
        return foretells(alert) ? Trouble.AHEAD : Trouble.RUN;
    }

    @Override
    public String sentence(Alert alert) {
        return guards.sentence(judging(alert));
    }

    @Override
    public String link(Alert alert) {
        return "/batch/guards/" + alert.origin().id();
    }

    /** What is said at the job that brings it about comes before what is said at the guard. */
    @Override
    public String fixNote(Alert alert) {
        var own =
                jobs.byComponent(alert.about().cause()).map(StoredJob::fixNote).orElse("");
        return own.isBlank() ? guard(alert).fixNote() : own;
    }

    @Override
    public String value(Alert alert, double value) {
        if (Double.isNaN(value)) return "";
        return switch (judging(alert).trouble()) {
            case FAILED -> "exit code %.0f".formatted(value);
            case DEADLINE_AT_RISK -> "%.0f %% to make it".formatted(value);
            case DID_NOT_START, RUNNING_LONG, OUT_OF_TIME -> "%,.0f min over".formatted(value);
            case SUSPICIOUS_SUCCESS, NOT_EXPECTED -> "%,.0f".formatted(value);
        };
    }

    @Override
    public Optional<Estate.Team> owner(Alert alert) {
        return guards.owner(alert.origin().id());
    }

    @Override
    public double worse(Origin origin, double one, double other) {
        return guards.byId(origin.id()).rule().trouble().worse(one, other);
    }

    /** That what a vendor rents out does not serve explains trouble of any job that needs it. */
    @Override
    public Set<String> explainedBy(Alert alert) {
        return Set.of(Vendors.KIND);
    }

    @Override
    public boolean foretells(Alert alert) {
        return judging(alert).trouble() == RunTrouble.DEADLINE_AT_RISK;
    }
}
