package app.morvet.views.windows;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.core.alert.Transition;
import app.morvet.core.cases.SettleReason;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.MaintenanceWindow.Effect;
import app.morvet.core.windows.Plan;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Alerts in windows: held while one covers them, work afterwards where they are still wrong, and never lost. */
class HeldInWindowsTest extends AlertsInWindows {
    @Autowired
    private Alerts alerts;

    private boolean held(Subject subject) {
        return jdbc.sql("select held from alert where component_id = :id order by id desc limit 1")
                .param("id", subject.id())
                .query(Boolean.class)
                .single();
    }

    private String page(long id) throws Exception {
        return loggedIn("analyst").page("/windows/" + id).text();
    }

    @Test
    void whatOutlivesItsWindowIsACaseAtOnceThatSaysSo() throws Exception {
        var guard = gauge();
        var host = component(host());
        long id = over(host, -20, 60);
        raise(guard, host, -10, CRITICAL, 9);
        assertThat(held(host)).isTrue();
        assertThat(casesOf(host)).isEmpty();
        assertThat(page(id)).contains("The " + host.key(), "heat is 9.0", "held until");
        end(id);
        eventually(() -> assertThat(casesOf(host)).hasSize(1));
        assertThat(held(host)).isFalse();
        var opened = theCase(host);
        // The ten minutes that it looks at had begun with the window.
        assertThat(opened.firstSeen()).isEqualTo(in(-20));
        assertThat(opened.severity()).isEqualTo(CRITICAL);
        assertThat(opened.respondBy())
                .as("nobody was waited for while the window was on")
                .isAfterOrEqualTo(in(15));
        assertThat(logOf(opened))
                .anyMatch(words ->
                        words.equals("It began in the window \"%s\"; without that it would have been a critical case."
                                .formatted(stored(id).window().name())));
        eventually(() -> assertThat(page(id)).contains("became work"));
    }

    @Test
    void whatCameAndWentInsideMakesNoCaseAndIsListed() throws Exception {
        var guard = gauge();
        var host = component(host());
        long id = over(host, -20, 60);
        raise(guard, host, -10, WARNING, 3);
        over(guard, host, -5);
        end(id);
        eventually(() -> assertThat(page(id)).contains("came and went inside"));
        assertThat(casesOf(host)).isEmpty();
    }

    @Test
    void whatBeganBeforeOrAfterOrElsewhereIsNotHeld() {
        var guard = gauge();
        var host = component(host());
        over(host, -20, 60);
        var before = component(host());
        over(before, -20, 60);
        raise(guard, before, -21, WARNING, 3);
        assertThat(casesOf(before)).hasSize(1);
        var after = component(host());
        over(after, -60, -20);
        raise(guard, after, -20, WARNING, 3);
        assertThat(casesOf(after)).hasSize(1);
        var elsewhere = component(host());
        raise(guard, elsewhere, -10, WARNING, 3);
        assertThat(casesOf(elsewhere)).hasSize(1);
        // For jobs alone nothing is held.
        var jobsOnly = component(host());
        windows.set(StoredWindow.fresh(new MaintenanceWindow(
                "jobs of " + jobsOnly.key(),
                Scope.ALL.named(jobsOnly.key()),
                Plan.once(in(-20), in(20), ZONE),
                Effect.NONE,
                MaintenanceWindow.Jobs.NOT_EXPECTED,
                "")));
        raise(guard, jobsOnly, -10, WARNING, 3);
        assertThat(casesOf(jobsOnly)).hasSize(1);
    }

    @Test
    void whatStandsOnAHostIsHeldWithItAndWhatItCausesElsewhereToo() {
        var host = component(host());
        var service = component("service");
        estate.standsOn(service.key(), host.key());
        over(host, -20, 60);
        var guard = gauge();
        raise(guard, service, -10, CRITICAL, 9);
        assertThat(held(service)).isTrue();
        var job = component(job());
        run(
                runGuard(app.morvet.core.batch.RunTrouble.OUT_OF_TIME),
                job,
                host,
                Transition.Kind.RAISED,
                (int) Duration.between(T, in(-10)).toMinutes(),
                1,
                "late");
        assertThat(held(job)).isTrue();
    }

    /** Shift is silent about it, and so is Messages. */
    @Test
    void anInterfaceNeedsEyesOnceItsAlertIsHeldNoLonger() throws Exception {
        var guard = gauge();
        var carrier = subject();
        long id = over(carrier, -20, 60);
        raise(guard, carrier, -10, WARNING, 3);
        assertThat(held(carrier)).isTrue();
        var analyst = loggedIn("analyst");
        assertThat(analyst.page("/messages/rest").text()).contains("Interface " + carrier.key());
        end(id);
        eventually(() -> assertThat(held(carrier)).isFalse());
        assertThat(analyst.page("/messages/rest").text()).doesNotContain("Interface " + carrier.key());
        assertThat(analyst.page("/messages").text()
                        + analyst.page("/messages/others").text())
                .contains("Interface " + carrier.key(), "an alert is up since");
    }

    @Test
    void whatIsUpOnAComponentIsSummedUpWithoutWhatIsHeld() {
        var guard = gauge();
        var carrier = component(host());
        over(carrier, -9, 60);
        raise(guard, carrier, -10, WARNING, 3);
        raise(gauge(), carrier, -5, CRITICAL, 9);
        assertThat(alerts.sumsOn(List.of(carrier.id())).get(carrier.id()))
                .isEqualTo(new Alerts.Up(1, WARNING, in(-10)));
        var bare = component(host());
        raise(guard, bare, -10, WARNING, 3);
        raise(gauge(), bare, -5, CRITICAL, 9);
        raise(gauge(), bare, -3, WARNING, 3);
        var quiet = component(host());
        var sums = alerts.sumsOn(List.of(bare.id(), quiet.id()));
        assertThat(sums).containsOnlyKeys(bare.id());
        assertThat(sums.get(bare.id())).isEqualTo(new Alerts.Up(3, CRITICAL, in(-10)));
    }

    @Test
    void ofTwoWindowsTheLastToEndLetsGo() throws Exception {
        var guard = gauge();
        var host = component(host());
        long one = over(host, -20, 60);
        long other = over(host, -20, 30);
        raise(guard, host, -10, WARNING, 3);
        end(one);
        eventually(() -> assertThat(jdbc.sql(
                                "select window_id from held_alert join alert on id = alert_id where component_id = :id")
                        .param("id", host.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(other));
        assertThat(casesOf(host)).isEmpty();
        end(other);
        eventually(() -> assertThat(casesOf(host)).hasSize(1));
    }

    @Test
    void aWindowThatIsDeletedOrMovedAwayLetsGo() throws Exception {
        var guard = gauge();
        var host = component(host());
        long id = over(host, -20, 60);
        raise(guard, host, -10, WARNING, 3);
        windows.delete(id, person("analyst"));
        eventually(() -> assertThat(casesOf(host)).hasSize(1));
        assertThat(page(id)).contains("deleted", "became work");
    }

    @Test
    void aCountStandsOnWhatHappenedInsideUntilItGrows() throws Exception {
        // It counts: above 2, critical above 5.
        var guard = guard("counts");
        var host = component(host());
        long id = over(host, -20, 60);
        raise(guard, host, -10, WARNING, 4);
        end(id);
        eventually(() -> assertThat(page(id)).contains("stands on what happened inside"));
        assertThat(casesOf(host)).isEmpty();
        // It falls as time goes on, and what it fell to is what it grows from.
        move(guard, host, Transition.Kind.SAYS, 1, WARNING, 3);
        assertThat(casesOf(host)).isEmpty();
        move(guard, host, Transition.Kind.SAYS, 2, WARNING, 4);
        assertThat(casesOf(host)).hasSize(1);
        assertThat(logOf(theCase(host))).anyMatch(words -> words.endsWith("and has grown since."));
    }

    /** Over before anybody saw it on, as when no node ran meanwhile. */
    @Test
    void whatATimeHeldThatNobodySawBeginIsListedWithIt() throws Exception {
        var host = component(host());
        long id = over(host, -20, -5);
        raise(gauge(), host, -10, WARNING, 3);
        eventually(() -> assertThat(casesOf(host)).hasSize(1));
        eventually(() -> assertThat(page(id)).contains("became work").doesNotContain("It has not been on yet"));
        // And what came and went inside, of which nothing is left to be let go.
        var other = component(host());
        long unseen = over(other, -20, -5);
        var guard = gauge();
        raise(guard, other, -10, WARNING, 3);
        over(guard, other, -7);
        assertThat(page(unseen)).contains("came and went inside").doesNotContain("It has not been on yet");
    }

    @Test
    void whereNothingWasAskedItIsLookedAtFirst() throws Exception {
        var guard = gauge();
        var host = component(host());
        long id = window(Scope.ALL.named(host.key()), -20, 60, Effect.PAUSE, false);
        raise(guard, host, -10, WARNING, 3);
        // A window that no round has seen on has no time that could be noted as over.
        eventually(() -> assertThat(jdbc.sql("select count(*) from window_time where window_id = :id")
                        .param("id", id)
                        .query(Integer.class)
                        .single())
                .isEqualTo(1));
        end(id);
        eventually(() -> assertThat(jdbc.sql("select ended_at is not null from window_time where window_id = :id")
                        .param("id", id)
                        .query(Boolean.class)
                        .single())
                .isTrue());
        // The round that noted the end has looked at what it held.
        assertThat(casesOf(host)).isEmpty();
        assertThat(tell("# TYPE heat gauge\nheat{component=\"%s\"} 9 %d\n# EOF\n"
                                .formatted(
                                        host.key(), Instant.now().plusSeconds(1).getEpochSecond()))
                        .statusCode())
                .isEqualTo(202);
        eventually(() -> assertThat(casesOf(host)).hasSize(1));
    }

    @Test
    void whatWasOpenBeforeStaysOpenAndIsQuietWhereTheWindowSaysSo() throws Exception {
        var guard = gauge();
        var host = component(host());
        var other = component(host());
        raise(guard, host, -40, WARNING, 3);
        raise(guard, other, -40, WARNING, 3);
        long id = window(Scope.ALL.named(host.key()), -1, 60, Effect.HOLD, true);
        over(other, -1, 60);
        eventually(() -> assertThat(theCase(host).progress().quietUntil()).isEqualTo(in(60)));
        assertThat(theCase(other).progress().quietUntil()).isNull();
        end(id);
        eventually(() -> assertThat(theCase(host).progress().quietUntil()).isNull());
        assertThat(logOf(theCase(host))).contains("Quiet has ended with the window");
    }

    @Test
    void aSettledCaseWhoseTroubleOutlivesAWindowIsOpenAgain() throws Exception {
        var guard = gauge();
        var host = component(host());
        raise(guard, host, -60, WARNING, 3);
        over(guard, host, -50);
        var settled = theCase(host);
        cases.settle(settled.id(), settled.version(), person("analyst"), SettleReason.MENDED, "", in(-45));
        long id = over(host, -20, 60);
        raise(guard, host, -10, WARNING, 3);
        assertThat(theCase(host).settled()).isTrue();
        end(id);
        eventually(() -> assertThat(theCase(host).settled()).isFalse());
    }

    @Test
    void whatIsChangedOutsideAWindowIsCountedAndGuardsCallOnIt() throws Exception {
        var planned = component(host());
        var unplanned = component(host());
        over(planned, -20, 60);
        long guard = guards.set(
                "Unplanned " + NUMBER.incrementAndGet(),
                true,
                Watch.of("changes_outside_windows"),
                new LimitGuard(
                        new Window.Sliding(Duration.ofHours(1)),
                        Amount.of(Amount.Fold.SUM),
                        new Limits(Limit.above(0), null),
                        Terms.clearing(1, Duration.ZERO)),
                "");
        for (var one : new Subject[] {planned, unplanned})
            send(List.of(event(
                    "change.observed",
                    one.key(),
                    Instant.now().minusSeconds(30),
                    Map.of("what", "version", "before", "4.1", "after", "4.2"))));
        eventually(() -> assertThat(casesOf(unplanned)).hasSize(1));
        assertThat(theCase(unplanned).headline()).contains("1 change");
        assertThat(jdbc.sql(
                                "select component_id from alert where origin_kind = 'guard' and origin_id = :id and component_id in (:one, :other)")
                        .param("id", guard)
                        .param("one", planned.id())
                        .param("other", unplanned.id())
                        .query(Long.class)
                        .list())
                .containsExactly(unplanned.id());
    }
}
