package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.core.alert.Severity;
import app.morvet.core.cases.SettleReason;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.IntToDoubleFunction;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What the bench says of a guard that is being edited: what it would have done, against which trouble, and what to take. */
class GuardBenchTest extends ToldAlerts {
    private static final Instant NOW = Instant.now();
    private Browser lead;

    @BeforeEach
    void logIn() throws Exception {
        lead = loggedIn("lead");
    }

    /** Readings of heat every ten minutes of some days up to now, by the number of the reading. */
    private void heat(Subject subject, int days, IntToDoubleFunction value) throws Exception {
        var page = new StringBuilder();
        int count = days * 144;
        for (int i = 0; i < count; i++)
            page.append(String.format(
                    Locale.ROOT,
                    "heat{component=\"%s\"} %.3f %d%n",
                    subject.key(),
                    value.applyAsDouble(i),
                    NOW.minusSeconds(600L * (count - i)).getEpochSecond()));
        assertThat(tell(page.toString()).statusCode()).isEqualTo(202);
    }

    /** Calm at 10, and three times a day for half an hour at 80, 90 and 100. */
    private static double threePeaks(int i) {
        return i % 48 < 3 ? 80 + 10 * (i / 48 % 3) : 10;
    }

    private static Map<String, String> over(Subject subject) {
        var fields = new TreeMap<String, String>();
        fields.put("name", "Edited");
        fields.put("kind", "limit");
        fields.put("measure", "heat");
        fields.put("pattern", subject.key());
        fields.put("fold", "last");
        fields.put("length", "10 min");
        fields.put("warning", "50");
        fields.put("calm", "0");
        fields.put("inside", "15");
        fields.put("days", "4");
        return fields;
    }

    private static Map<String, String> with(Map<String, String> fields, String... more) {
        var all = new TreeMap<>(fields);
        for (int i = 0; i < more.length; i += 2) all.put(more[i], more[i + 1]);
        return all;
    }

    private JsonNode picture(Map<String, String> fields) throws Exception {
        var answer = lead.post("/guards/picture", fields);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        return tree(answer);
    }

    private Document proposal(Map<String, String> fields) throws Exception {
        return Browser.shown(lead.post("/guards/propose", fields));
    }

    @Test
    void itTellsEachAlertThatItWouldHaveRaisedTheLatestFirst() throws Exception {
        var subject = component(host());
        heat(subject, 4, GuardBenchTest::threePeaks);
        var picture = picture(over(subject));
        assertThat(picture.path("alerts").size()).isEqualTo(12);
        assertThat(picture.path("edited").path("alerts").asInt()).isEqualTo(12);
        assertThat(picture.path("edited").path("alertsAWeek").asString()).isEqualTo("21");
        var starts = picture.path("alerts")
                .valueStream()
                .map(it -> it.path("from").asDouble())
                .toList();
        assertThat(starts).isSortedAccordingTo(java.util.Comparator.reverseOrder());
        var latest = picture.path("alerts").get(0);
        assertThat(latest.path("level").asString()).isEqualTo("warning");
        assertThat(latest.path("worst").asString()).isEqualTo("100");
        assertThat(latest.path("lasted").asString()).isEqualTo("30 min");
        assertThat(picture.path("inForce").isNull()).isTrue();
        assertThat(picture.path("draggable").asBoolean()).isTrue();
    }

    @Test
    void anotherLimitIsAnotherPastAndTheVersionInForceStandsBesideIt() throws Exception {
        var subject = component(host());
        heat(subject, 4, GuardBenchTest::threePeaks);
        long id = guards.set(
                "In force " + System.nanoTime(),
                true,
                app.morvet.core.guard.Watch.of("heat").named(subject.key()),
                new app.morvet.core.guard.LimitGuard(
                        new app.morvet.core.guard.Window.Sliding(Duration.ofMinutes(10)),
                        app.morvet.core.guard.Amount.of(app.morvet.core.guard.Amount.Fold.LAST),
                        app.morvet.core.guard.Limits.of(app.morvet.core.guard.Side.ABOVE, 95.0, null),
                        app.morvet.core.guard.Terms.clearing(0.85, Duration.ZERO)),
                "");
        var picture = picture(with(over(subject), "id", "" + id, "warning", "85", "critical", "95"));
        assertThat(picture.path("edited").path("alerts").asInt()).isEqualTo(8);
        assertThat(picture.path("edited").path("critical").asInt()).isEqualTo(4);
        assertThat(picture.path("inForce").path("alerts").asInt()).isEqualTo(4);
    }

    @Test
    void whatWasSettledAsTroubleIsCaughtOrMissedAndAFalseCallIsOne() throws Exception {
        var subject = component(host());
        heat(subject, 4, GuardBenchTest::threePeaks);
        // Two troubles, one at a peak and one while all was calm, and a peak that was settled as nothing: each more
        // than a
        // day after the one before, so that they are cases of their own.
        settled(subject, 48, SettleReason.MENDED);
        settled(subject, 48 + 144 + 20, SettleReason.MENDED);
        settled(subject, 48 * 8, SettleReason.FALSE_CALL);
        assertThat(casesOf(subject)).hasSize(3);
        var edited = picture(over(subject)).path("edited");
        assertThat(edited.path("caught").asInt()).isEqualTo(1);
        assertThat(edited.path("missed").asInt()).isEqualTo(1);
        assertThat(edited.path("falseCalls").asInt()).isEqualTo(1);
        assertThat(edited.path("unjudged").asInt()).isEqualTo(10);
        assertThat(edited.path("missedOnes").get(0).path("words").asString()).startsWith("case ");
    }

    /** A case that stood for ten minutes about the reading of a number. */
    private void settled(Subject subject, int reading, SettleReason reason) {
        long guard = guard("past " + reading);
        var begin = NOW.minusSeconds(600L * (4 * 144 - reading)).minusSeconds(60);
        var minute = (int) Duration.between(T, begin).toMinutes();
        raised(guard, subject, minute, Severity.WARNING, 90);
        var id = (Long) casesOf(subject).getLast().get("id");
        cleared(guard, subject, minute + 8, 90);
        var now = cases.find(id).orElseThrow();
        cases.settle(id, now.version(), person("analyst"), reason, "", at(minute + 9));
    }

    @Test
    void ofManySubjectsOneIsDrawnAndAllWhenThatIsAsked() throws Exception {
        var first = component(host());
        var second = component(host());
        heat(first, 2, GuardBenchTest::threePeaks);
        heat(second, 2, i -> 10);
        var fields = with(over(first), "pattern", "host-told-*", "days", "2");
        var one = picture(fields);
        assertThat(one.path("drawn").size()).isEqualTo(1);
        var all = picture(with(fields, "show", "all"));
        assertThat(all.path("drawn").size()).isGreaterThanOrEqualTo(2);
        long chosen = all.path("drawn").get(1).path("series").asLong();
        assertThat(picture(with(fields, "subject", "" + chosen))
                        .path("drawn")
                        .get(0)
                        .path("series")
                        .asLong())
                .isEqualTo(chosen);
        assertThat(picture(with(fields, "curves", "no")).path("drawn").size()).isZero();
    }

    @Test
    void theDaysThatAreLookedAtStayWithinReason() throws Exception {
        var subject = component(host());
        heat(subject, 2, i -> 10);
        for (var days : List.of("0", "9999", "many", "-3", "")) {
            var times = picture(with(over(subject), "days", days))
                    .path("drawn")
                    .get(0)
                    .path("curve")
                    .path("times");
            double span = times.get(times.size() - 1).asDouble() - times.get(0).asDouble();
            assertThat(span).as(days).isBetween(80_000.0, 401 * 86_400.0);
        }
        // Dragging goes on over the span at which the page was opened.
        long until = NOW.minusSeconds(3600).getEpochSecond();
        var held = picture(with(over(subject), "until", "" + until))
                .path("drawn")
                .get(0)
                .path("curve")
                .path("times");
        assertThat(held.get(held.size() - 1).asDouble()).isEqualTo(until);
        var tooOld = picture(with(over(subject), "until", "12"))
                .path("drawn")
                .get(0)
                .path("curve")
                .path("times");
        assertThat(tooOld.get(tooOld.size() - 1).asDouble()).isGreaterThan(until);
    }

    @Test
    void aSentenceThatCannotBeReadHasNoPicture() throws Exception {
        var picture = picture(with(over(component(host())), "warning", "much"));
        assertThat(picture.path("readable").asBoolean()).isFalse();
        assertThat(picture.path("drawn").size()).isZero();
    }

    @Test
    void limitsAreProposedWithinTheBudgetAndSayWhy() throws Exception {
        var subject = component(host());
        heat(subject, 4, GuardBenchTest::threePeaks);
        settled(subject, 48 * 5, SettleReason.MENDED);
        var page = proposal(with(over(subject), "budget", "8", "warning", "", "critical", ""));
        assertThat(page.text()).contains("Warn above");
        double warning = Double.parseDouble(page.select("[data-warning]").attr("data-warning"));
        var picture = picture(with(over(subject), "warning", "" + warning));
        assertThat(Double.parseDouble(picture.path("edited").path("alertsAWeek").asString()))
                .isLessThanOrEqualTo(8);
        assertThat(page.select("tbody tr").eachText()).anyMatch(row -> row.endsWith("proposed"));
        assertThat(page.select("tbody tr").eachText()).anyMatch(row -> row.endsWith("over the budget"));
    }

    @Test
    void whatCannotBeProposedSaysWhy() throws Exception {
        var subject = component(host());
        heat(subject, 1, i -> 10);
        assertThat(proposal(with(over(subject), "budget", "0")).text())
                .contains("Give a budget of alerts a week above 0.");
        assertThat(proposal(with(over(subject), "budget", "lots")).text())
                .contains("Give a budget of alerts a week above 0.");
        assertThat(proposal(with(over(subject), "budget", "3", "side", "equal")).text())
                .contains("Limits are proposed above or below a value.");
        assertThat(proposal(with(over(subject), "budget", "3", "length", "soon"))
                        .text())
                .contains("The sentence cannot be read yet; mend it first.");
    }

    @Test
    void theSubjectsAreThoseThatTheSentenceMatches() throws Exception {
        var subject = component(host());
        heat(subject, 1, i -> 10);
        var named = tree(lead.post("/guards/subjects", over(subject)));
        assertThat(named.size()).isEqualTo(1);
        assertThat(named.get(0).path("name").asString()).contains("The host");
        assertThat(tree(lead.post("/guards/subjects", with(over(subject), "pattern", "no-such")))
                        .size())
                .isZero();
        // Also while the limits cannot be read.
        assertThat(tree(lead.post("/guards/subjects", with(over(subject), "warning", "x")))
                        .size())
                .isEqualTo(1);
    }

    @Test
    void whoSeesTheBenchWithoutItsScriptsStillHasItsSentence() throws Exception {
        var page = Jsoup.parse(lead.get("/guards/new?kind=limit&measure=heat").body());
        assertThat(page.select("form [name=warning]")).hasSize(1);
        assertThat(page.select("form button:contains(Save)")).isNotEmpty();
    }
}
