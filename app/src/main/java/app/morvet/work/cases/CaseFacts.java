package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Origins;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * The facts of a case as they stand in its dossier, in a ticket and in a mail: those that what raised it has, and no
 * others. A full disk has a value and limits, a family of failed messages a count.
 */
@Component
public class CaseFacts {
    public record Fact(String name, String words) {}

    private final CaseAlerts alerts;
    private final Origins origins;

    CaseFacts(CaseAlerts alerts, Origins origins) {
        this.alerts = alerts;
        this.origins = origins;
    }

    /** @param time how an instant is written */
    public List<Fact> of(WorkCase one, Function<Instant, String> time) {
        var all = alerts.of(one.id());
        var facts = new ArrayList<Fact>();
        if (one.isAboutFailures()) {
            facts.add(failed(one));
            facts.add(new Fact("First", time.apply(one.firstSeen())));
            facts.add(new Fact("Last", time.apply(one.lastSeen())));
            return facts;
        }
        all.stream().findFirst().ifPresent(alert -> {
            add("Value", value(alert), facts);
            add("Limits", origins.of(alert).limits(alert), facts);
        });
        if (one.failures() > 0) facts.add(failed(one));
        facts.add(new Fact("Since", time.apply(one.firstSeen())));
        return facts;
    }

    private static Fact failed(WorkCase one) {
        return new Fact("Failed", "%,d %s".formatted(one.failures(), one.failures() == 1 ? "message" : "messages"));
    }

    private String value(Alert alert) {
        var kind = origins.of(alert);
        var now = kind.value(alert, alert.value());
        var worst = kind.value(alert, alert.worst());
        if (!alert.up()) return worst.isEmpty() ? "" : worst + " at worst";
        return now.isEmpty() || now.equals(worst) ? now : now + " now, " + worst + " at worst";
    }

    private static void add(String name, String words, List<Fact> facts) {
        if (!words.isBlank()) facts.add(new Fact(name, words));
    }

    /** In one line: {@code Value 97 %; Limits warn above 85 %; Since …}. */
    public static String line(List<Fact> facts) {
        return facts.stream().map(fact -> fact.name() + " " + fact.words()).collect(Collectors.joining("; "));
    }
}
