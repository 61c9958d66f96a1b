package app.morvet.work.cases;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** The Cases place as its pages are given out. */
class CasePagesTest extends MorvetTest {
    private Browser analyst;

    @BeforeEach
    void logIn() throws Exception {
        analyst = loggedIn("analyst");
    }

    @Autowired
    private CaseViews views;

    private static List<String> all(String pattern, String text) {
        var found = new ArrayList<String>();
        var matcher = Pattern.compile(pattern).matcher(text);
        while (matcher.find()) found.add(matcher.group(1));
        return found;
    }

    /** Puts cases of a settled past there, a minute apart. */
    private void settledCases(Subject subject, int count) {
        jdbc.sql(
                        """
                        insert into work_case (state, component_id, severity, headline, opened_at, respond_by, topic_since, first_seen, last_seen, settled_at, settle_reason)
                        select 'SETTLED', :component, 'WARNING', 'past ' || n, now() - interval '30 days', now() - interval '30 days', now() - interval '30 days', now() - interval '30 days',
                               now() - interval '30 days', now() - interval '29 days' - n * interval '1 minute', 'PASSED'
                          from generate_series(1, :count) as n""")
                .param("component", subject.id())
                .param("count", count)
                .update();
    }

    private long opened(Subject subject, int failures) throws Exception {
        guard(subject, Duration.ofMinutes(10));
        fail(subject, failures);
        eventually(() -> assertThat(caseOf(subject).get("failures")).isEqualTo((long) failures));
        return (Long) caseOf(subject).get("id");
    }

    @Test
    void theMostUrgentCaseStandsFirstAndSaysWhy() throws Exception {
        var warning = subject();
        var critical = subject();
        opened(warning, 3);
        opened(critical, 12);
        var rows = views.open(CaseViews.Show.OPEN, person("analyst"), null, "");
        var ofCritical = row(rows, critical);
        var ofWarning = row(rows, warning);
        assertThat(rows.indexOf(ofCritical)).isLessThan(rows.indexOf(ofWarning));
        assertThat(ofCritical.parts()).isEqualTo("critical +60 · tier 1 +20 · spread +5");
        assertThat(ofWarning.parts()).startsWith("warning +30 · tier 1 +20");
        assertThat(rows.stream().map(CaseViews.Row::urgency)).isSortedAccordingTo(java.util.Comparator.reverseOrder());
        assertThat(rows).doesNotHaveDuplicates();
        var severe = views.open(CaseViews.Show.OPEN, person("analyst"), app.morvet.core.alert.Severity.CRITICAL, "");
        assertThat(severe).contains(ofCritical).doesNotContain(ofWarning);
        // The page shows the first of them, each with what makes it urgent.
        var page = analyst.get("/cases").body();
        assertThat(all("<li id=\"case-(\\d+)\"", page))
                .isEqualTo(rows.stream()
                        .limit(CaseLists.PAGE)
                        .map(one -> Long.toString(one.id()))
                        .toList());
        assertThat(page).contains(rows.getFirst().parts());
    }

    private static CaseViews.Row row(List<CaseViews.Row> rows, Subject subject) {
        return rows.stream()
                .filter(one -> one.headline().endsWith(subject.key() + ", over the critical limit of 5")
                        || one.headline().endsWith(subject.key() + ", over the warning limit of 2"))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void settledCasesComePageByPageEachOnce() throws Exception {
        settledCases(subject(), 95);
        var seen = new ArrayList<String>();
        var path = "/cases?show=settled";
        for (int pages = 0; !path.isEmpty() && pages < 20; pages++) {
            var page = analyst.get(path).body();
            var rows = all("<li id=\"case-(\\d+)\"", page);
            assertThat(rows).hasSizeLessThanOrEqualTo(CaseLists.PAGE);
            seen.addAll(rows);
            var next = all("href=\"(/cases\\?show=settled&amp;[^\"]*before=[^\"]+)\"", page);
            path = next.isEmpty() ? "" : next.getFirst().replace("&amp;", "&");
        }
        assertThat(seen).hasSizeGreaterThanOrEqualTo(95).doesNotHaveDuplicates();
        assertThat(new HashSet<>(seen))
                .containsAll(jdbc.sql("select id::text from work_case where headline like 'past %'")
                        .query(String.class)
                        .list());
    }

    @Test
    void theCurveIsTheSameAsChartAsTableAndAsCsv() throws Exception {
        var subject = subject();
        long id = opened(subject, 4);
        long alert = jdbc.sql("select alert_id from case_alert where case_id = :id")
                .param("id", id)
                .query(Long.class)
                .single();
        var path = "/cases/" + id + "/curves/" + alert;
        var chart = json.readTree(analyst.get(path).body());
        assertThat(chart.get("warning").get(0).doubleValue()).isEqualTo(2);
        assertThat(chart.get("critical").get(0).doubleValue()).isEqualTo(5);
        assertThat(chart.get("values").get(chart.get("values").size() - 1).doubleValue())
                .isEqualTo(4);
        assertThat(chart.get("times").size()).isEqualTo(chart.get("values").size());
        var csv = analyst.get(path + ".csv");
        assertThat(csv.headers().firstValue("content-type").orElse("")).startsWith("text/csv");
        assertThat(csv.body())
                .startsWith("at,\"failed over the last 10 min\",over\r\n")
                .endsWith(",4,warning\r\n");
        assertThat(analyst.get(path + "/table").body()).contains("<td class=\"num\">4</td><td>warning</td>");
        assertThat(analyst.get("/cases/" + (id + 100_000) + "/curves/" + alert).statusCode())
                .isEqualTo(404);
    }

    @Test
    void aDossierShowsTheEvidenceAndItsFixNoteWithoutRunningIt() throws Exception {
        var subject = subject();
        long id = opened(subject, 4);
        var guard = guards.all().stream()
                .filter(one -> one.name().startsWith("Guard of " + subject.key() + " "))
                .findFirst()
                .orElseThrow();
        guards.change(
                new app.morvet.rules.guards.StoredGuard(
                        guard.id(),
                        guard.name(),
                        true,
                        guard.watch(),
                        guard.rule(),
                        "**Do** <script>alert(1)</script> [x](javascript:alert(1))",
                        null,
                        guard.version()),
                person("lead"));
        var page = analyst.get("/cases/" + id).body();
        assertThat(page)
                .contains("4 failed in the last 10 min on Interface " + subject.key())
                .contains("Team of " + subject.key(), "no answer", "BK-")
                .contains("<strong>Do</strong> &lt;script&gt;")
                .doesNotContain("javascript:alert");
        var message = all("hx-get=\"(/messages/\\d+-\\d+)\"", page).getFirst();
        assertThat(analyst.get(message).body()).contains("from partner", "&quot;id&quot;: 1", "hub-1");
        var file = analyst.get(message + "/payload");
        assertThat(file.headers().firstValue("content-disposition").orElse(""))
                .startsWith("attachment; filename=\"BK-")
                .endsWith(".json\"");
        assertThat(file.headers().firstValue("x-content-type-options")).contains("nosniff");
        assertThat(file.body()).isEqualTo("{\"id\":1}");
    }

    @Test
    void aRefusedActKeepsWhatWasTypedAndSaysWhatToDo() throws Exception {
        long id = opened(subject(), 4);
        var form = analyst.post("/cases/" + id + "/settle", "version=1&reason=&words=because", "HX-Request", "true");
        assertThat(form.statusCode()).isEqualTo(422);
        assertThat(form.body()).contains("Choose a reason for settling the case.", "value=\"because\"");
        assertThat(analyst.post("/cases/" + id + "/quiet", "version=1&until=soon")
                        .body())
                .contains("Give the time to keep quiet until as a day and a time");
        assertThat(analyst.post("/cases/" + id + "/give", "version=1&to=0").body())
                .contains("Choose a person to give the case to.");
        assertThat(analyst.post("/cases/" + id + "/take", "version=9").statusCode())
                .isEqualTo(409);
        assertThat(analyst.post("/cases/" + id + "/take", "version=1").body()).contains("took the case", "Undo");
        assertThat(analyst.get("/cases?show=mine").body()).contains("id=\"case-" + id + "\"");
    }

    @Test
    void searchFindsCasesInterfacesAndMessages() throws Exception {
        var subject = subject();
        long id = opened(subject, 3);
        var key = jdbc.sql("select business_key from failed_message where component_id = :id limit 1")
                .param("id", subject.id())
                .query(String.class)
                .single();
        assertThat(analyst.get("/search?q=" + id).body()).contains("/cases/" + id + "\"");
        assertThat(analyst.get("/search?q=" + Browser.encoded("interface " + subject.key()))
                        .body())
                .contains("/messages/interfaces/" + subject.key() + "\"");
        var found = analyst.get("/search?q=" + Browser.encoded(key)).body();
        assertThat(found).contains(key);
        assertThat(analyst.get(all("(/messages/\\d+-\\d+)", found).getFirst()).body())
                .contains("The middleware told only where it failed", "from partner");
        assertThat(analyst.get("/search?q=" + Browser.encoded("100% of_nothing\\"))
                        .body())
                .contains("Nothing found.");
    }

    @Test
    void whatIsNotThereSaysSo() throws Exception {
        for (var path : List.of(
                "/cases/999999", "/messages/1-1", "/messages/interfaces/nowhere", "/guards/999999", "/nothing/here")) {
            var answer = analyst.get(path, "Accept", "text/html");
            assertThat(answer.statusCode()).as(path).isEqualTo(404);
            assertThat(answer.body())
                    .as(path)
                    .contains("There is nothing here")
                    .containsPattern("There is no \\w+|leads nowhere");
        }
        assertThat(analyst.get("/cases/999999", "Accept", "text/html").body())
                .contains("There is no case 999999.")
                .doesNotContain("leads nowhere");
        assertThat(analyst.get("/services/checks/999999", "Accept", "text/html").body())
                .contains("There is nothing here", "leads nowhere")
                .as("cases are not what everybody may see")
                .contains("<a href=\"/\">To your first page</a>");
    }
}
