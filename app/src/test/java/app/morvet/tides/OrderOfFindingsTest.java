package app.morvet.tides;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Move;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Topic;
import app.morvet.core.alert.Transition;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** Those that judge are threads of their own: which of them speaks first makes no difference to the cases. */
class OrderOfFindingsTest extends ToldAlerts {
    private static final int TABLE = 9;

    /** One alert of a ramp. */
    private record Raised(String name, Topic topic, int minute) {}

    private static final List<Raised> ALERTS = List.of(
            new Raised("all tides", Topic.all("tides"), 6),
            new Raised("low", Topic.one("tides", "low"), 5),
            new Raised("fast", Topic.one("tides", "fast"), 2),
            new Raised("the ramp itself", null, 4));

    private Set<Set<String>> casesAfter(List<Raised> order) {
        var ramp = component(host());
        for (var one : order) {
            var raised = Transition.between(null, Severity.WARNING, at(one.minute()), 1, 1);
            tell(new Move(
                    TideOrigins.origin(TABLE),
                    one.name() + ramp.id(),
                    About.of(ramp.id(), one.topic()),
                    raised,
                    one.name(),
                    one.name()));
        }
        var cases = new HashSet<Set<String>>();
        for (var row : casesOf(ramp))
            cases.add(new TreeSet<>(
                    jdbc.sql("select a.words from case_alert c join alert a on a.id = c.alert_id where c.case_id = :id")
                            .param("id", row.get("id"))
                            .query(String.class)
                            .list()));
        cases.remove(Set.<String>of());
        return cases;
    }

    private static List<List<Raised>> orders(List<Raised> some) {
        if (some.isEmpty()) return List.of(List.of());
        var orders = new ArrayList<List<Raised>>();
        for (var first : some) {
            var others = new ArrayList<>(some);
            others.remove(first);
            for (var rest : orders(others)) {
                var order = new ArrayList<>(List.of(first));
                order.addAll(rest);
                orders.add(order);
            }
        }
        return orders;
    }

    @Test
    void anyOrderOfTheSameAlertsGivesTheSameCases() {
        var orders = orders(ALERTS);
        assertThat(orders).hasSize(24);
        for (var order : orders)
            assertThat(casesAfter(order))
                    .as(order.toString())
                    // What is about all tides goes with the one that was raised first.
                    .isEqualTo(Set.of(Set.of("all tides", "fast"), Set.of("low"), Set.of("the ramp itself")));
    }

    @Test
    void whoFollowsACaseReadsWhereAnAlertWent() {
        var ramp = component(host());
        var origin = TideOrigins.origin(TABLE);
        for (int i = 0; i < 3; i++) {
            var one = ALERTS.get(i);
            tell(new Move(
                    origin,
                    one.name() + ramp.id(),
                    About.of(ramp.id(), one.topic()),
                    Transition.between(null, Severity.WARNING, at(one.minute()), 1, 1),
                    one.name(),
                    one.name()));
        }
        var ids = casesOf(ramp).stream().map(row -> (Long) row.get("id")).toList();
        assertThat(ids).hasSize(2);
        assertThat(logOf(cases.find(ids.getFirst()).orElseThrow()))
                .contains("\"Tide table 9\" goes with case %d, which began before this".formatted(ids.getLast()));
        assertThat(logOf(cases.find(ids.getLast()).orElseThrow())).contains("all tides");
    }
}
