package app.morvet.sources.changes;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Changes as they are told, seen, listed, searched, and shown where they may explain something. */
class ChangesTest extends MorvetTest {
    @Autowired
    Changes changes;

    @Autowired
    SeriesBook series;

    @Autowired
    States states;

    private String host;

    @BeforeEach
    void host() {
        host = "ch" + UUID.randomUUID().toString().substring(0, 8);
    }

    private static Map<String, Object> observed(String component, Instant at, Map<String, Object> data) {
        return event("change.observed", component, at, data);
    }

    private List<String> words() {
        return changes
                .latest(
                        host,
                        Instant.now().minus(Duration.ofDays(30)),
                        Instant.now().plusSeconds(600),
                        0,
                        50)
                .stream()
                .map(one -> one.change().words())
                .toList();
    }

    @Test
    void whatEventsTellIsKeptOnceAndShownWithItsComponent() throws Exception {
        var told = observed(
                host,
                Instant.now().minusSeconds(60),
                Map.of("what", "version", "name", "gate firmware", "before", "4.1", "after", "4.2", "by", "Quay crew"));
        var unfit = observed(host, Instant.now(), Map.of("what", "version", "before", "4.1", "after", "4.1"));
        var answer = tree(send(List.of(told, unfit)));
        assertThat(answer.path("rejected")).hasSize(1);
        assertThat(answer.toString()).contains("before and after are the same, which is no change");
        send(List.of(told));
        assertThat(words()).containsExactly("version of gate firmware: 4.1 → 4.2");

        var analyst = loggedIn("analyst");
        assertThat(analyst.page("/estate/components/" + host).text())
                .contains("What changed", "version of gate firmware: 4.1 → 4.2, by Quay crew");
        assertThat(analyst.page("/estate/changes?q=FIRMWARE&days=1")
                        .select("tr:contains(" + host + ")")
                        .text())
                .contains("gate firmware", "Quay crew");
        assertThat(analyst.page("/estate/changes?q=nothing-like-" + host).text())
                .contains("Nothing was seen to change");
        assertThat(analyst.page("/search?q=gate+firmware").text()).contains(host);
    }

    @Test
    void whatAComponentSaysOfItselfFirstIsHowItIsAndLaterAChange() throws Exception {
        var info =
                "# TYPE build info\nbuild_info{component=\"%s\",kind=\"host\",version=\"%s\",os=\"pier\"} 1\n# EOF\n";
        for (var version : List.of("1.0", "1.0", "1.1"))
            assertThat(tell("application/openmetrics-text; version=1.0.0", info.formatted(host, version))
                            .statusCode())
                    .isEqualTo(202);
        assertThat(words()).containsExactly("version of build: 1.0 → 1.1");
        // Of several components on one page each is held against what it said itself.
        var both = info.replace("# EOF\n", "").formatted(host, "1.2")
                + "build_info{component=\"%s-b\",kind=\"host\",version=\"1.0\",os=\"pier\"} 1\n# EOF\n".formatted(host);
        for (int again = 0; again < 2; again++) tell("application/openmetrics-text; version=1.0.0", both);
        assertThat(words()).containsExactly("version of build: 1.1 → 1.2", "version of build: 1.0 → 1.1");
        assertThat(changes.infos(estate.byKey(host + "-b").orElseThrow().id()))
                .containsEntry("build", Map.of("version", "1.0", "os", "pier"));
        assertThat(estate.byKey(host).orElseThrow().kind()).isEqualTo("host");
        // As collectors of the plain-text ancestor tell it.
        tell("# TYPE build_info gauge\nbuild_info{component=\"%s\",kind=\"host\",version=\"1.2\",os=\"pier\"} 1\n"
                .formatted(host));
        assertThat(words()).containsExactly("version of build: 1.1 → 1.2", "version of build: 1.0 → 1.1");
        assertThat(loggedIn("analyst").page("/estate/components/" + host).text())
                .contains("What it says of itself", "build version 1.2", "build os pier");
        // It is no series itself; that nobody had planned what changed is counted.
        assertThat(jdbc.sql(
                                """
                        select count(*) from series s join component c on c.id = s.component_id join measure m on m.id = s.measure_id
                         where c.key = :key and m.name <> 'changes_outside_windows'""")
                        .param("key", host)
                        .query(Integer.class)
                        .single())
                .isZero();
    }

    /** Several lines of one info are one thing that is said, whatever their order. */
    @Test
    void anInfoInSeveralLinesIsOne() throws Exception {
        var line = "volume_info{component=\"" + host + "\",kind=\"host\",volume=\"%s\",kindof=\"%s\"} 1\n";
        var head = "# TYPE volume_info gauge\n";
        tell(head + line.formatted("/", "old") + line.formatted("/data", "new"));
        tell(head + line.formatted("/data", "new") + line.formatted("/", "old"));
        assertThat(words()).isEmpty();
        tell(head + line.formatted("/data", "new") + line.formatted("/", "new"));
        assertThat(words()).containsExactly("setting volume kindof: new, old → new");
    }

    /** On what is in trouble, on what that stands on, and on what it needs; and not on others, nor long before. */
    @Test
    void theDossierOfACaseSaysWhatChangedShortlyBefore() throws Exception {
        var subject = subject();
        sorting(subject, "refused", false);
        for (var part : List.of("gate", "pier", "far")) estate.add(host + "-" + part, host + " " + part, "host", null);
        estate.needs(subject.key(), host + "-gate");
        estate.standsOn(host + "-gate", host + "-pier");
        var now = Instant.now();
        var before = Duration.ofHours(2);
        send(List.of(
                observed(subject.key(), now.minus(before), Map.of("what", "version", "after", "mapper 7")),
                observed(
                        host + "-pier",
                        now.minus(before),
                        Map.of("what", "setting", "name", "mtu", "before", "9000", "after", "1500")),
                observed(host + "-far", now.minus(before), Map.of("what", "setting", "after", "elsewhere")),
                observed(
                        host + "-gate",
                        now.minus(Duration.ofHours(9)),
                        Map.of("what", "setting", "after", "long ago"))));
        var failure = new HashMap<>(failed(subject, Map.of("error", "refused")));
        send(List.of(failure));
        eventually(() -> caseOf(subject));
        var dossier = loggedIn("analyst").page("/cases/" + caseOf(subject).get("id"));
        var part = dossier.select("section:has(h2:contains(What changed in the 6 hours before))")
                .text();
        assertThat(part)
                .contains("version: mapper 7, which is new", host + " pier: setting mtu: 9000 → 1500")
                .doesNotContain("elsewhere", "long ago");
        assertThat(dossier.select("#dossier-facts").attr("data-live"))
                .contains("cases", "changes", "handoffs", "callouts");
    }

    @Test
    void oldOnesGo() throws Exception {
        send(List.of(observed(host, Instant.now().minus(Duration.ofDays(80)), Map.of("what", "file", "after", "x"))));
        var later = Instant.now().plus(Duration.ofDays(340));
        changes.dropOld(later);
        assertThat(jdbc.sql(
                                "select count(*) from observed_change o join component c on c.id = o.component_id where c.key = :key")
                        .param("key", host)
                        .query(Integer.class)
                        .single())
                .isZero();
    }

    /** Of three that are alike one runs another version: it is in a state that a guard calls on, until it is mended. */
    @Test
    void aVersionThatDiffersFromThoseOfItsLikeIsAStateOfItsOwn() throws Exception {
        long application = estate.addApplication(
                "app-" + host,
                "App of " + host,
                3,
                estate.addTeam("t-" + host, "T of " + host, host + "@sundrava.example"));
        for (var one : List.of("-1", "-2", "-3")) estate.add(host + one, host + one, "instance", application);
        versions("1.0", "1.0", "1.0");
        assertThat(differ()).containsExactly("same", "same", "same");
        versions("1.0", "1.0", "1.1");
        assertThat(differ()).containsExactly("same", "same", "different");
        long guard = guards.set(
                "Versions of " + host,
                true,
                Watch.of("version").named(host + "-*"),
                new StateGuard(
                        StateGuard.Condition.in(Duration.ZERO, "different"), null, Terms.clearing(1, Duration.ZERO)),
                "");
        eventually(() -> assertThat(jdbc.sql("select words from alert where origin_kind = 'guard' and origin_id = :id")
                        .param("id", guard)
                        .query(String.class)
                        .list())
                .containsExactly("Version on " + host + "-3 build is different"));
        assertThat(loggedIn("analyst").page("/services?q=" + host).text()).contains(host + "-3");
        versions("1.1", "1.1", "1.1");
        assertThat(differ()).containsExactly("same", "same", "same");
    }

    private void versions(String... some) throws Exception {
        var page = new StringBuilder("# TYPE build info\n");
        for (int i = 0; i < some.length; i++)
            page.append("build_info{component=\"%s-%d\",kind=\"instance\",version=\"%s\"} 1\n"
                    .formatted(host, i + 1, some[i]));
        tell(
                "application/openmetrics-text; version=1.0.0",
                page.append("# EOF\n").toString());
    }

    private List<String> differ() {
        var words = new ArrayList<String>();
        for (var one : List.of("-1", "-2", "-3")) {
            var of = series.find(estate.byKey(host + one).orElseThrow().id(), "version", Map.of("info", "build"))
                    .orElseThrow();
            words.add(of.measure()
                    .stateWords()
                    .word(states.of(List.of(of.id())).get(of.id()).place()));
        }
        return words;
    }
}
