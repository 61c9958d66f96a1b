package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Grouping;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.ground.estate.Estate;
import java.sql.Timestamp;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.IntToDoubleFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** What guards do to alerts while people change the guards and the values move. */
class GuardLifeTest extends MorvetTest {
    private static final Terms TERMS = Terms.clearing(1, Duration.ZERO);
    private final String host = "host-" + UUID.randomUUID().toString().substring(0, 8);

    private static LimitGuard over(double warning, double critical, Terms terms) {
        return new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(5)),
                Amount.of(Amount.Fold.LAST),
                Limits.above(warning, critical),
                terms);
    }

    @Autowired
    private Replays replays;

    private StoredGuard guard(String name, Watch watch, Guard rule) {
        long id = guards.add(new StoredGuard(0, name + " of " + host, true, watch, rule, "", null, 0), person("lead"));
        return guards.byId(id);
    }

    private void tell(String measure, String component, double value) throws Exception {
        assertThat(tell("%s{component=\"%s\",kind=\"host\"} %s\n".formatted(measure, component, value))
                        .statusCode())
                .isEqualTo(202);
    }

    /** A reading a minute, of the first minute ago, and the second, and so on down to the last, told at once by a feed of its own. */
    private void tellAtOnce(String key, Instant now, int first, int last, IntToDoubleFunction values) throws Exception {
        var readings = IntStream.rangeClosed(last, first)
                .mapToObj(ago -> "{\"component\":\"%s\",\"measure\":\"pressure\",\"value\":%s,\"at\":\"%s\"}"
                        .formatted(host, values.applyAsDouble(ago), now.minusSeconds(60L * ago)))
                .collect(Collectors.joining(",", "[", "]"));
        assertThat(tell(key, "application/json", readings).statusCode()).isEqualTo(202);
    }

    /** How many series a guard has judged. */
    private long judged(StoredGuard guard) {
        return jdbc.sql("select count(*) from guard_state where guard_id = :id")
                .param("id", guard.id())
                .query(Long.class)
                .single();
    }

    private List<Map<String, Object>> alerts(StoredGuard guard) {
        return jdbc.sql("select * from alert where origin_kind = 'guard' and origin_id = :id order by id")
                .param("id", guard.id())
                .query()
                .listOfRows();
    }

    private void isUp(StoredGuard guard, int count) throws Exception {
        eventually(() -> assertThat(alerts(guard))
                .filteredOn(one -> one.get("cleared_at") == null)
                .hasSize(count));
    }

    @Autowired
    private TransactionTemplate transaction;

    /** A round may look while a change is not there yet for anybody but who makes it. */
    @Test
    void aChangeOfTheEstateIsSeenOnceItIsThere() throws Exception {
        setUpOnce();
        var mail = host + "@sundrava.example";
        long application = estate.addApplication(
                "app-" + host, "App of " + host, 1, estate.addTeam("t-" + host, "T of " + host, mail));
        var other = host + "-other";
        tell("heat", host, 50);
        tell("heat", other, 50);
        var guard =
                guard("Late", new Watch("heat", Scope.ALL.ofApplication("app-" + host), "", ""), over(40, 90, TERMS));
        var watched = guard("Watched", Watch.of("heat").named(other), over(40, 90, TERMS));
        isUp(watched, 1);
        var before = estate.byKey(host).orElseThrow();
        transaction.executeWithoutResult(status -> {
            estate.change(new Estate.Component(
                    before.id(),
                    before.key(),
                    before.name(),
                    before.kind(),
                    application,
                    before.standsOn(),
                    before.firstSeen()));
            // Rounds go by meanwhile: what comes now is judged by one of them.
            try {
                var another = new Thread(() -> {
                    try {
                        tell("heat", other, 95);
                    } catch (Exception failed) {
                        throw new IllegalStateException(failed);
                    }
                });
                another.start();
                another.join();
                eventually(() -> assertThat(alerts(watched)).anyMatch(one -> "CRITICAL".equals(one.get("level"))));
            } catch (Exception failed) {
                throw new IllegalStateException(failed);
            }
        });
        isUp(guard, 1);
    }

    @Test
    void membersOfACombinationKeepSilentAsLongAsItStands() throws Exception {
        setUpOnce();
        tell("heat", host, 50);
        tell("load", host, 1);
        var heat = guard("Heat", Watch.of("heat").named(host), over(40, 90, TERMS));
        var load = guard("Load", Watch.of("load").named(host), over(8, 16, TERMS));
        isUp(heat, 1);
        var both = guard(
                "Both",
                new Watch("", Scope.ALL.named(host), "", ""),
                new CombinationGuard(
                        Expression.parse("a and b"), List.of(heat.id(), load.id()), Severity.CRITICAL, true, TERMS));
        isUp(heat, 0);
        isUp(both, 0);
        // Both are judged up to where both are known.
        tell("load", host, 12);
        tell("heat", host, 51);
        isUp(both, 1);
        isUp(load, 0);
        guards.change(both.switched(false), person("lead"));
        // The combination is over, and both speak for themselves again.
        isUp(both, 0);
        isUp(heat, 1);
        isUp(load, 1);
        assertThat(loggedIn("lead").get("/guards/" + both.id()).body()).contains("Heat of " + host);
        var refused = loggedIn("lead").post("/guards/" + heat.id() + "/delete", "version=" + heat.version());
        assertThat(loggedIn("lead").get(app.morvet.Browser.to(refused)).statusCode())
                .isEqualTo(200);
        assertThat(guards.byId(heat.id()).deleted()).isFalse();
    }

    /** Live and on the bench alike: of the two volumes only the second fills. */
    @Test
    void ofAMemberThatStandsOverSeveralSeriesAnyCounts() throws Exception {
        setUpOnce();
        var page =
                "fill{component=\"%1$s\",kind=\"host\",volume=\"/\"} 10\nfill{component=\"%1$s\",kind=\"host\",volume=\"/data\"} %2$d\n";
        tell(page.formatted(host, 10));
        var fill = guard("Fill", Watch.of("fill").named(host), over(40, 90, TERMS));
        var alone = new CombinationGuard(Expression.parse("a"), List.of(fill.id()), Severity.CRITICAL, false, TERMS);
        var combined = guard("Any volume", new Watch("", Scope.ALL.named(host), "", ""), alone);
        isUp(combined, 0);
        tell(page.formatted(host, 60));
        isUp(combined, 1);
        var now = java.time.Instant.now();
        var taken = replays.take(alone, combined.watch(), now.minus(Duration.ofHours(1)), now.plusSeconds(1));
        assertThat(replays.run(alone, taken).alerts()).hasSize(1);
        tell(page.formatted(host, 20));
        isUp(combined, 0);
    }

    @Test
    void anAlertTellsItsWorstValueAndRisesAndIsOverWhenTheGuardIsSwitchedOff() throws Exception {
        setUpOnce();
        tell("heat", host, 50);
        var heat = guard("Heat", Watch.of("heat").named(host), over(40, 90, TERMS));
        isUp(heat, 1);
        tell("heat", host, 70);
        eventually(() ->
                assertThat(alerts(heat).getFirst()).containsEntry("value", 70.0).containsEntry("level", "WARNING"));
        tell("heat", host, 95);
        eventually(() ->
                assertThat(alerts(heat).getFirst()).containsEntry("worst", 95.0).containsEntry("level", "CRITICAL"));
        tell("heat", host, 60);
        eventually(() ->
                assertThat(alerts(heat).getFirst()).containsEntry("value", 60.0).containsEntry("worst", 95.0));
        guards.change(guards.byId(heat.id()).switched(false), person("lead"));
        isUp(heat, 0);
        assertThat(alerts(heat)).hasSize(1);
    }

    @Test
    void whatIsGroupedIsOneAlertUntilTheLastOfThemIsBack() throws Exception {
        setUpOnce();
        tell("heat", host + "-1", 50);
        tell("heat", host + "-2", 60);
        var grouped = new Terms(
                TERMS.clearing(), TERMS.noData(), new Grouping(Grouping.By.GUARD, ""), TERMS.hours(), TERMS.damping());
        var heat = guard("Heat", Watch.of("heat").named(host + "-*"), over(40, 90, grouped));
        isUp(heat, 1);
        eventually(() ->
                assertThat(alerts(heat).getFirst().get("words").toString()).contains(host + "-2"));
        tell("heat", host + "-2", 10);
        eventually(() ->
                assertThat(alerts(heat).getFirst().get("words").toString()).contains(host + "-1"));
        isUp(heat, 1);
        tell("heat", host + "-1", 10);
        isUp(heat, 0);
        assertThat(alerts(heat)).hasSize(1);
    }

    /** What was promised is known as soon as a feed is, so no reading is too late that comes when it was promised. */
    @Test
    void whatAFeedTellsOfAnHourAtOnceIsJudgedAtItsOwnTime() throws Exception {
        setUpOnce();
        var before = guard("Warm", Watch.of("warmth").named(host), over(10, 20, TERMS));
        tell("warmth", host, 1);
        eventually(() -> assertThat(judged(before)).isEqualTo(1));
        var key = "hourly-" + host;
        keys.add(key, estate.addFeed(key, "Hourly", Duration.ofHours(2)), key);
        var guard = guard("Pressed", Watch.of("pressure").named(host), over(10, 20, TERMS));
        var now = Instant.now().truncatedTo(ChronoUnit.SECONDS);

        tellAtOnce(key, now, 60, 31, ago -> 1);
        eventually(() -> assertThat(judged(guard)).isEqualTo(1));
        tellAtOnce(key, now, 30, 2, ago -> ago > 14 && ago < 21 ? 30 : 1);

        eventually(() -> assertThat(alerts(guard)).singleElement().satisfies(one -> {
            assertThat(one.get("raised_at")).isEqualTo(Timestamp.from(now.minusSeconds(20 * 60)));
            assertThat(one.get("cleared_at")).isEqualTo(Timestamp.from(now.minusSeconds(14 * 60)));
        }));
    }
}
