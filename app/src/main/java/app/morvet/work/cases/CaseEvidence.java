package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Origins;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.CurvePicture;
import app.morvet.sources.batch.Runs;
import app.morvet.sources.messages.Masks;
import app.morvet.sources.messages.MessageStore;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What goes with a case to those who are told of it elsewhere: what to do, what is in trouble because of it, an error, a curve. */
@Component
public class CaseEvidence {
    private final CaseAlerts alerts;
    private final Origins origins;
    private final MessageStore messages;
    private final Runs runs;
    private final ChangedBefore changed;
    private final Masks masks;
    private final Estate estate;

    CaseEvidence(
            CaseAlerts alerts,
            Origins origins,
            MessageStore messages,
            Runs runs,
            ChangedBefore changed,
            Masks masks,
            Estate estate) {
        this.alerts = alerts;
        this.origins = origins;
        this.messages = messages;
        this.runs = runs;
        this.changed = changed;
        this.masks = masks;
        this.estate = estate;
    }

    /** The fix note of what tells most, in Markdown; may be empty. */
    public String fixNote(WorkCase one) {
        return alerts.told(one).stream()
                .map(alert -> origins.of(alert).fixNote(alert).strip())
                .filter(note -> !note.isEmpty())
                .findFirst()
                .orElse("");
    }

    /** Names of what is in trouble because of it. */
    public List<String> explained(WorkCase one) {
        return alerts.told(one).stream()
                .filter(Alert::up)
                .map(alert -> alert.about().component())
                .filter(component -> component != one.component())
                .distinct()
                .map(component -> estate.component(component).name())
                .toList();
    }

    /** The error of the message that failed last, with what is masked masked; empty where none did. */
    public String sample(WorkCase one) {
        if (!one.isAboutFailures()) return "";
        var found =
                messages.samples(one.scope(), one.firstSeen(), one.lastSeen().plus(Duration.ofMinutes(1)));
        if (found.isEmpty()) return "";
        var last = found.getLast();
        return masks.on(last.line().component()).text(last.line().error()).text();
    }

    /** What changed before it, the latest first, each in a sentence. */
    public List<String> changedBefore(WorkCase one) {
        return changed.of(one).stream()
                .map(row -> "%s, %s: %s%s"
                        .formatted(
                                row.at(), row.component(), row.words(), row.by().isEmpty() ? "" : ", by " + row.by()))
                .toList();
    }

    /** What the job that failed wrote, with what is masked masked; empty where it is about none, or that told nothing. */
    public Optional<String> output(WorkCase one) {
        return alerts.told(one).stream()
                .map(alert -> alert.about().component())
                .distinct()
                .flatMap(job -> runs.lastWithOutput(job, true, one.lastSeen()).stream())
                .findFirst()
                .flatMap(runs::output)
                .map(Runs.Output::text);
    }

    /** Whether there may be a curve; it is not read for that. */
    public boolean isDrawn(WorkCase one) {
        return alerts.told(one).stream().anyMatch(alert -> origins.of(alert).drawn(alert));
    }

    /** The curve of what tells most of what can be drawn. */
    public Optional<Curve> curve(WorkCase one) {
        return alerts.told(one).stream()
                .filter(alert -> origins.of(alert).drawn(alert))
                .map(alert -> origins.of(alert).curve(alert, one.firstSeen()))
                .filter(CurvePicture::isDrawn)
                .findFirst();
    }
}
