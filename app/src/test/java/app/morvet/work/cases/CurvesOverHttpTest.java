package app.morvet.work.cases;

import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.function.DoubleUnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The curve of an alert as a browser gets it: how far it reaches, what stands beside it, and for whom there is none. */
class CurvesOverHttpTest extends ToldAlerts {
    private static final Terms TERMS = Terms.clearing(0.5, Duration.ZERO);
    private Browser analyst;

    @BeforeEach
    void logIn() throws Exception {
        analyst = loggedIn("analyst");
    }

    /** Readings of the heat of a component, one every five minutes of a span about an instant. */
    private void heat(Subject subject, int fromMinute, int toMinute, DoubleUnaryOperator byMinute) throws Exception {
        var page = new StringBuilder();
        for (int minute = fromMinute; minute <= toMinute; minute += 5)
            page.append(String.format(
                    Locale.ROOT,
                    "heat{component=\"%s\"} %.3f %d%n",
                    subject.key(),
                    byMinute.applyAsDouble(minute),
                    at(minute).getEpochSecond()));
        assertThat(tell(page.toString()).statusCode()).isEqualTo(202);
    }

    private long guard(String name, Guard rule) {
        setUpOnce();
        return guards.set(name + " " + System.nanoTime(), false, Watch.of("heat"), rule, "");
    }

    /** A component that is critical for half an hour, with readings from as long before that to as long after its beginning. */
    private Subject hotForHalfAnHour(int minutes, double hot, double usual) throws Exception {
        long guard = guard("limits");
        var subject = component(host());
        heat(subject, -minutes, minutes, minute -> minute >= 0 && minute < 30 ? hot : usual);
        raised(guard, subject, 0, Severity.CRITICAL, hot);
        cleared(guard, subject, 30, hot);
        return subject;
    }

    private String path(Subject subject) {
        long id = (Long) caseOf(subject).get("id");
        long alert = jdbc.sql("select max(alert_id) from case_alert where case_id = :id")
                .param("id", id)
                .query(Long.class)
                .single();
        return "/cases/" + id + "/curves/" + alert;
    }

    private JsonNode curve(Subject subject) throws Exception {
        var answer = analyst.get(path(subject));
        assertThat(answer.statusCode()).isEqualTo(200);
        return tree(answer);
    }

    private static Instant time(JsonNode curve, int index) {
        return Instant.ofEpochMilli((long) (curve.path("times").get(index).asDouble() * 1000));
    }

    @Test
    void itReachesFromTwoHoursBeforeTheTroubleToAnHourAfterItsEnd() throws Exception {
        var subject = hotForHalfAnHour(300, 9, 1);
        var curve = curve(subject);
        int last = curve.path("times").size() - 1;
        assertThat(time(curve, 0)).isBetween(at(-135), at(-120));
        assertThat(time(curve, last)).isBetween(at(85), at(90));
        assertThat(curve.path("values")
                        .valueStream()
                        .filter(it -> !it.isNull())
                        .mapToDouble(JsonNode::asDouble)
                        .max())
                .hasValue(18);
        assertThat(curve.path("warning").get(0).asDouble()).isEqualTo(2);
        assertThat(curve.path("critical").get(0).asDouble()).isEqualTo(5);
        assertThat(curve.path("zone").asString()).isEqualTo("Europe/Helsinki");
        for (var list : List.of("values", "low", "high", "projected"))
            assertThat(curve.path(list).size()).as(list).isIn(0, last + 1);
    }

    @Test
    void theTableHasTheLatestFirstAndSaysWhatIsOver() throws Exception {
        var subject = hotForHalfAnHour(60, 9, 0);
        var rows = Browser.shown(analyst.get(path(subject) + "/table")).select("tbody tr");
        assertThat(rows).isNotEmpty();
        assertThat(rows.eachText().stream().map(text -> text.substring(0, 19)))
                .isSortedAccordingTo(java.util.Comparator.reverseOrder());
        assertThat(rows.select("td:last-child").eachText()).contains("critical");
        assertThat(rows.first().text()).doesNotContain("critical");
    }

    @Test
    void asCsvItCanBeReadByAnotherProgram() throws Exception {
        var subject = hotForHalfAnHour(60, 9.5, 0);
        var answer = analyst.get(path(subject) + ".csv");
        assertThat(answer.headers().firstValue("content-disposition").orElse(""))
                .matches("attachment; filename=\"case-\\d+-curve\\.csv\"");
        var lines = answer.body().split("\r\n");
        assertThat(lines[0]).isEqualTo("at,\"the sum over the last 10 min\",over");
        for (int i = 1; i < lines.length; i++) {
            var cells = lines[i].split(",", -1);
            assertThat(cells).as(lines[i]).hasSize(3);
            Instant.parse(cells[0]);
            double value = Double.parseDouble(cells[1]);
            assertThat(cells[2]).as(lines[i]).isEqualTo(value > 5 ? "critical" : value > 2 ? "warning" : "");
        }
        assertThat(lines).anyMatch(line -> line.contains(",19,critical"));
    }

    @Test
    void aLongTroubleShowsItsLastDay() throws Exception {
        long guard = guard("limits");
        var subject = component(host());
        heat(subject, -120, 3000, minute -> 9);
        raised(guard, subject, 0, Severity.CRITICAL, 9);
        cleared(guard, subject, 2900, 9);
        var curve = curve(subject);
        assertThat(time(curve, 0)).isAfter(at(2900 + 60 - 1440 - 15));
        assertThat(curve.path("times").size()).isLessThan(320);
    }

    @Test
    void aTrendShowsAllThatItLooksBackOnAndNoLevelsOfItsOwn() throws Exception {
        var subject = component(host());
        heat(subject, -60 * 24 * 2, 0, minute -> 90 + minute / 100.0);
        long guard = guard(
                "trend",
                new TrendGuard(
                        95, Side.ABOVE, Duration.ofDays(2), false, ZoneId.of("UTC"), Limits.below(72, 24), TERMS));
        raised(guard, subject, 0, WARNING, 30);
        cleared(guard, subject, 1, 30);
        var curve = curve(subject);
        assertThat(time(curve, 0)).isBefore(at(-60 * 24));
        assertThat(curve.path("critical").get(0).asDouble()).isEqualTo(95);
        assertThat(Browser.shown(analyst.get(path(subject) + "/table")).select("tbody td:last-child"))
                .isNotEmpty()
                .allMatch(cell -> cell.text().isEmpty());
    }

    @Test
    void whatIsNotHeardIsDrawnAsReadingsThatHaveNotCome() throws Exception {
        var subject = component(host());
        heat(subject, -120, 0, minute -> 1);
        heat(subject, 60, 65, minute -> 1);
        long guard = guard("silence", new SilenceGuard(Limits.above(3, 10), TERMS));
        raised(guard, subject, 20, WARNING, 4);
        cleared(guard, subject, 60, 12);
        var curve = curve(subject);
        assertThat(curve.path("name").asString()).isEqualTo("promised readings that have not come");
        assertThat(curve.path("values")
                        .valueStream()
                        .mapToDouble(it -> it.asDouble(0))
                        .max()
                        .orElse(0))
                .isGreaterThan(10);
    }

    @Test
    void aCombinationAndARunHaveNoCurveButTheirPageStands() throws Exception {
        var subject = component(host());
        heat(subject, -60, 60, minute -> 1);
        long member = guard("member");
        long guard = guard(
                "both", new CombinationGuard(Expression.parse("a"), List.of(member), Severity.CRITICAL, false, TERMS));
        raised(guard, subject, 0, WARNING, 1);
        assertThat(curve(subject).path("times").size()).isZero();
        var job = component(job());
        run(runGuard(RunTrouble.DID_NOT_START), job, job, Transition.Kind.RAISED, 0, 5, "5 min late");
        for (var of : List.of(subject, job)) {
            long id = (Long) caseOf(of).get("id");
            var page = analyst.page("/cases/" + id);
            assertThat(page.select("#dossier-title")).isNotEmpty();
            assertThat(page.select(".curve[data-curve]")).isEmpty();
        }
    }

    @Test
    void failedMessagesAreCountedInEqualStretches() throws Exception {
        var subject = subject();
        sorting(subject, "no answer", false);
        fail(subject, 7);
        eventually(() -> caseOf(subject));
        eventually(() -> assertThat(curve(subject)
                        .path("values")
                        .valueStream()
                        .mapToDouble(JsonNode::asDouble)
                        .sum())
                .isEqualTo(7));
        var curve = curve(subject);
        assertThat(curve.path("name").asString()).startsWith("failed in ");
        var apart = new java.util.TreeSet<Long>();
        for (int i = 1; i < curve.path("times").size(); i++)
            apart.add(ChronoUnit.SECONDS.between(time(curve, i - 1), time(curve, i)));
        assertThat(apart).hasSize(1);
        assertThat(curve.path("warning").size()).isZero();
    }

    @Test
    void theCurveOfAnotherCaseAndOfNoneIsNotThere() throws Exception {
        long guard = guard("limits");
        var one = component(host());
        var other = component(host());
        raised(guard, one, 0, WARNING, 3);
        raised(guard, other, 0, WARNING, 3);
        var path = path(one);
        long alert = Long.parseLong(path.substring(path.lastIndexOf('/') + 1));
        long otherCase = (Long) caseOf(other).get("id");
        for (var wrong : List.of("/cases/" + otherCase + "/curves/" + alert, "/cases/0/curves/" + alert, path + "0"))
            for (var form : List.of("", "/table", ".csv"))
                assertThat(analyst.get(wrong + form).statusCode())
                        .as(wrong + form)
                        .isEqualTo(404);
        assertThat(browser().get(path).statusCode()).isIn(302, 401);
    }
}
