package app.morvet.views.windows;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow.Effect;
import java.time.Duration;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** What a window has let go, and what shows soon after it, comes of the work that was done in it. */
class WindowsAsCauseTest extends AlertsInWindows {
    /** A window over hosts that have nothing in common but that. */
    private long over(List<Subject> hosts, Scope scope) {
        var group = "works " + NUMBER.incrementAndGet();
        groups.set(group, "", null, hosts.stream().map(Subject::id).collect(Collectors.toSet()));
        return window(scope.inGroup(group), -20, 60, Effect.HOLD, false);
    }

    private boolean isPartOf(Subject host, Subject whole) {
        return jdbc.sql(
                                "select count(*) from case_alert join alert on id = alert_id where component_id = :id and case_id = :case")
                        .param("id", host.id())
                        .param("case", theCase(whole).id())
                        .query(Long.class)
                        .single()
                > 0;
    }

    @Test
    void whatOneWindowLetsGoIsOnePieceOfWorkThatSaysSo() throws Exception {
        var guard = gauge();
        var worst = component(host());
        var other = component(host());
        long id = over(List.of(other, worst), Scope.ALL);
        raise(guard, other, -10, WARNING, 3);
        raise(guard, worst, -5, CRITICAL, 9);
        end(id);
        eventually(() -> assertThat(casesOf(worst)).hasSize(1));
        assertThat(casesOf(other)).isEmpty();
        assertThat(isPartOf(other, worst)).isTrue();
        assertThat(logOf(theCase(worst)))
                .anyMatch(words -> words.startsWith("This explains it: the window \"%s\" was over both until "
                        .formatted(stored(id).window().name())));
    }

    @Test
    void whatShowsSoonAfterAWindowOnWhatItCoveredComesOfTheSameWork() throws Exception {
        var guard = gauge();
        var inside = component(host());
        var after = component(host());
        var late = component(host());
        var elsewhere = component(host());
        var group = List.of(inside, after, late);
        groups.set("soon after", "", null, group.stream().map(Subject::id).collect(Collectors.toSet()));
        window(Scope.ALL.inGroup("soon after"), -60, -35, Effect.HOLD, false);
        raise(guard, inside, -40, WARNING, 3);
        eventually(() -> assertThat(casesOf(inside)).hasSize(1));
        raise(guard, after, -20, WARNING, 3);
        raise(guard, elsewhere, -19, WARNING, 3);
        raise(guard, late, -2, WARNING, 3);
        assertThat(casesOf(after)).isEmpty();
        assertThat(isPartOf(after, inside)).isTrue();
        assertThat(casesOf(elsewhere)).hasSize(1);
        assertThat(casesOf(late)).as("more than half an hour later").hasSize(1);
    }

    /** What was there before the window is no part of it, and draws in nothing of it. */
    @Test
    void whatJoinedAnOlderCaseDrawsInNothingElse() throws Exception {
        var guard = gauge();
        var ground = component(host());
        var service = component("service");
        estate.standsOn(service.key(), ground.key());
        var other = component(host());
        long stopped = stateGuard("Stopped since before");
        tell(raising(stopped, ground, (int) Duration.between(T, in(-90)).toMinutes(), CRITICAL, "it is stopped"));
        long id = over(List.of(service, other), Scope.ALL);
        raise(guard, service, -10, CRITICAL, 9);
        raise(guard, other, -9, WARNING, 3);
        end(id);
        eventually(() -> assertThat(casesOf(other)).hasSize(1));
        assertThat(isPartOf(service, ground)).isTrue();
        assertThat(isPartOf(other, ground)).isFalse();
    }
}
