package app.morvet.work.cases;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.core.alert.Severity;
import app.morvet.core.cases.SettleReason;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.UUID;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Which cases stand in which list, and what a click on each of the actions makes of one. */
class CaseListTest extends ToldAlerts {
    private Browser analyst;
    private long guard;

    @BeforeEach
    void logIn() throws Exception {
        analyst = loggedIn("analyst");
        guard = guard("listed");
    }

    @Autowired
    private CaseViews views;

    private WorkCase opened() {
        var subject = component(host());
        raised(guard, subject, 0, WARNING, 3);
        return theCase(subject);
    }

    private boolean stands(String list, WorkCase one) {
        return stands(list, null, one);
    }

    private boolean stands(String list, @Nullable Severity only, WorkCase one) {
        var show = CaseViews.Show.of(list);
        var rows = show == CaseViews.Show.SETTLED
                ? views.rows(views.settled(Instant.now().plusSeconds(1), Long.MAX_VALUE, 50))
                : views.open(show, person("analyst"), only, "");
        return rows.stream().anyMatch(row -> row.id() == one.id());
    }

    private Document act(WorkCase one, String what, String form) throws Exception {
        var now = cases.find(one.id()).orElseThrow();
        return Browser.shown(analyst.post(
                "/cases/" + one.id() + "/" + what, "version=" + now.version() + (form.isEmpty() ? "" : "&" + form)));
    }

    private WorkCase now(WorkCase one) {
        return cases.find(one.id()).orElseThrow();
    }

    @Test
    void eachStandsInTheListOfWhereItIs() throws Exception {
        var one = opened();
        assertThat(stands("open", one)).isTrue();
        assertThat(stands("mine", one)).isFalse();
        act(one, "take", "");
        assertThat(stands("mine", one)).isTrue();
        var inAnHour = LocalDateTime.now(ZoneId.of("Europe/Helsinki")).plusHours(1);
        act(one, "quiet", "until=" + inAnHour.withNano(0) + "&words=known");
        assertThat(stands("open", one)).isFalse();
        assertThat(stands("quiet", one)).isTrue();
        act(one, "settle", "reason=mended&words=done");
        assertThat(stands("quiet", one)).isFalse();
        assertThat(stands("settled", one)).isTrue();
        act(one, "reopen", "");
        assertThat(stands("open", one)).isTrue();
        cases.returned(one.id(), "Platform", "not ours", Instant.now());
        assertThat(stands("returned", one)).isTrue();
    }

    @Test
    void whatNobodyHasIsListedAndOfThatWhatSomebodyShouldHaveByNow() throws Exception {
        var soon = component(host());
        raised(guard, soon, (int) Duration.between(at(0), Instant.now()).toMinutes() - 2, WARNING, 3);
        var since = component(host());
        raised(guard, since, 0, WARNING, 3);
        var late = theCase(since);
        assertThat(stands("nobodys", theCase(soon))).isTrue();
        assertThat(stands("late", theCase(soon))).isFalse();
        assertThat(stands("nobodys", late)).isTrue();
        assertThat(stands("late", late)).isTrue();
        assertThat(act(late, "note", "words=looked").select("#dossier-facts").text())
                .contains(", late");
        act(late, "take", "");
        assertThat(stands("nobodys", late)).isFalse();
        assertThat(stands("late", late)).isFalse();
        // What a team has is with somebody, though no person has taken it; what is over by itself is late for nobody.
        cases.handOff(theCase(soon).id(), theCase(soon).version(), null, "Platform", Instant.now());
        assertThat(stands("nobodys", theCase(soon))).isFalse();
        var over = component(host());
        raised(guard, over, 0, WARNING, 3);
        cleared(guard, over, 100, 0);
        assertThat(stands("nobodys", theCase(over))).isTrue();
        assertThat(stands("late", theCase(over))).isFalse();
    }

    /** What the first page counts of open work is what the lists have that it leads to. */
    @Test
    void openWorkCountsWhatItsListsHave() throws Exception {
        opened();
        // Rounds of others may move something between the two looks.
        eventually(() -> {
            var counted = analyst.page("/shift").select("h2:contains(Open work) + .shift-counts a");
            assertThat(counted.eachAttr("href")).contains("/cases?show=nobodys");
            for (var one : counted) {
                var show = CaseViews.Show.of(one.attr("href").replaceAll(".*=", ""));
                var listed = views.open(show, person("analyst"), null, "");
                assertThat(one.text()).startsWith(listed.size() + " ");
            }
        });
    }

    @Test
    void aCaseThatIsOpenedFromAListStandsBesideIt() throws Exception {
        var one = opened();
        var page = analyst.page("/cases/" + one.id());
        assertThat(page.select("#dossier-title").text()).contains(one.headline());
        assertThat(page.select("li[id^=case-]")).isNotEmpty();
        // Parts refresh themselves, each alone.
        for (var part : List.of("dossier", "dossier-facts", "dossier-title")) {
            var alone = Browser.shown(analyst.get("/cases/" + one.id(), "HX-Request", "true", "HX-Target", part));
            assertThat(alone.select("#" + part)).as(part).hasSize(1);
            assertThat(alone.select("li[id^=case-]")).as(part).isEmpty();
        }
        var rows = Browser.shown(analyst.get("/cases", "HX-Request", "true", "HX-Target", "case-rows"));
        assertThat(rows.select("#dossier-title")).isEmpty();
        assertThat(rows.select("li[id^=case-]")).isNotEmpty();
    }

    @Test
    void ofASeverityOnlyThoseAreShown() throws Exception {
        var warning = opened();
        var subject = component(host());
        raised(guard, subject, 0, CRITICAL, 9);
        assertThat(stands("open", CRITICAL, theCase(subject))).isTrue();
        assertThat(stands("open", CRITICAL, warning)).isFalse();
        assertThat(analyst.page("/cases?severity=enormous").select("li[id^=case-]"))
                .isNotEmpty();
        assertThat(analyst.page("/cases?severity=critical")
                        .select("li[id^=case-] .relief use")
                        .eachAttr("href"))
                .isNotEmpty()
                .containsOnly("#mark-critical");
    }

    @Test
    void anActSaysWhatItDidAndOffersToTakeItBack() throws Exception {
        var one = opened();
        var taken = act(one, "take", "");
        assertThat(taken.select(".log").text()).contains("took the case");
        var undo = taken.select("[data-undo]").first();
        assertThat(undo).isNotNull();
        long entry = jdbc.sql("select max(id) from case_entry where case_id = :id")
                .param("id", one.id())
                .query(Long.class)
                .single();
        var back = Browser.shown(analyst.post("/cases/" + one.id() + "/undo", "entry=" + entry));
        assertThat(back.select(".log").text()).contains("took that back: took the case");
        assertThat(now(one).progress().takenBy()).isNull();
        var again = analyst.post("/cases/" + one.id() + "/undo", "entry=" + entry);
        assertThat(again.statusCode()).isEqualTo(409);
        assertThat(Jsoup.parse(again.body()).text()).contains("This can no longer be undone.");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    settle | reason=                    | Choose a reason for settling the case.
                    settle | reason=because             | Choose a reason for settling the case.
                    quiet  | until=                     | Give the time to keep quiet until as a day and a time
                    quiet  | until=2001-01-01T08:00     | The time to keep quiet until must lie ahead.
                    quiet  | until=2999-01-01T08:00     | A case can be quiet for 14 days at most.
                    give   | to=0                       | Choose a person to give the case to.
                    note   | words=                     | Write something to note.
                    """)
    void whatCannotBeDoneSaysWhatToDoAndChangesNothing(String what, String form, String words) throws Exception {
        var one = opened();
        var answer = analyst.post("/cases/" + one.id() + "/" + what, "version=" + one.version() + "&" + form);
        assertThat(answer.statusCode()).isEqualTo(422);
        assertThat(Jsoup.parse(answer.body()).select(".refusal").text()).startsWith(words);
        assertThat(now(one)).isEqualTo(one);
    }

    @Test
    void aLongNoteIsRefusedWithItsLengthAndIsStillThere() throws Exception {
        var one = opened();
        var text = "n".repeat(4001);
        var answer = analyst.post("/cases/" + one.id() + "/note", "words=" + text);
        assertThat(answer.statusCode()).isEqualTo(422);
        var page = Jsoup.parse(answer.body());
        assertThat(page.select(".refusal").text()).isEqualTo("A note is at most 4,000 characters long, this has 4001.");
        assertThat(page.select("[name=words]").stream()
                        .anyMatch(field ->
                                field.wholeText().equals(text) || field.val().equals(text)))
                .isTrue();
    }

    @Test
    void givenToSomebodyItIsTheirsAndTheLogNamesThem() throws Exception {
        var one = opened();
        var page = act(one, "give", "to=" + person("other").id());
        assertThat(page.select(".log").text()).contains("gave the case to Pia Lumme");
        assertThat(now(one).progress().takenBy()).isEqualTo(person("other").id());
        assertThat(stands("mine", one)).isFalse();
    }

    @Test
    void settledCasesSayAsWhatAndCanBeOpenedAgain() throws Exception {
        var one = opened();
        for (var reason : SettleReason.choices()) {
            var page = act(one, "settle", "reason=" + reason.name().toLowerCase(java.util.Locale.ROOT) + "&words=");
            assertThat(page.select(".log").text()).contains("settled the case as " + reason.words());
            act(one, "reopen", "");
        }
        var twice = analyst.post("/cases/" + one.id() + "/reopen", "version=" + now(one).version());
        assertThat(twice.statusCode()).isEqualTo(409);
        assertThat(Jsoup.parse(twice.body()).text()).contains("This case is open already.");
    }

    @Test
    void aPlaceInTheListThatIsNoneIsRefused() throws Exception {
        assertThat(analyst.get("/cases?show=settled&before=x-y").statusCode()).isEqualTo(400);
        assertThat(analyst.page("/cases?from=99999").select("li[id^=case-]")).isEmpty();
        assertThat(analyst.page("/cases?from=-5").select("li[id^=case-]")).isNotEmpty();
        assertThat(analyst.page("/cases?show=nonsense")
                        .select("nav.tabs [aria-current]")
                        .text())
                .startsWith("Open");
    }

    @Test
    void aListIsKeptUnderANameOfItsReaderUntilItIsDropped() throws Exception {
        var name = "crit " + UUID.randomUUID().toString().substring(0, 6);
        var asked = "show=mine&severity=critical&order=newest&name=" + Browser.encoded(name);
        assertThat(analyst.post("/cases/filters", asked).statusCode()).isEqualTo(302);
        var kept = analyst.page("/cases").select(".kept a").stream()
                .filter(one -> one.text().equals(name))
                .findFirst()
                .orElseThrow();
        assertThat(kept.attr("href")).isEqualTo("/cases?show=mine&severity=critical&order=newest");
        var there = analyst.page(kept.attr("href"));
        assertThat(there.select(".kept a[aria-current]").text()).isEqualTo(name);
        assertThat(there.select(".tabs").text()).contains("only critical");
        assertThat(loggedIn("lead").page("/cases").select(".kept").text()).doesNotContain(name);

        // Of the same name it is replaced; what is not known of is not asked for.
        analyst.post("/cases/filters", "show=nothing&severity=dire&application=none&name=" + Browser.encoded(name));
        assertThat(analyst.page("/cases").select(".kept a[aria-current]").text())
                .as("all that is open")
                .contains(name);
        var refused = Browser.shown(analyst.post("/cases/filters", "show=mine&name=+"), 422);
        assertThat(refused.select(".refusal").text()).contains("Give the list a name");
        assertThat(refused.select(".tabs a[aria-current]").text()).isEqualTo("Mine");
        analyst.post("/cases/filters/drop", "name=" + Browser.encoded(name));
        assertThat(analyst.page("/cases").select(".kept").text()).doesNotContain(name);
    }

    @Test
    void nobodyKeepsMoreListsThanCanBeLookedThrough() throws Exception {
        for (int i = 0; i < 20; i++) analyst.post("/cases/filters", "show=open&name=full+" + i);
        try {
            var refused = Browser.shown(analyst.post("/cases/filters", "show=open&name=one+more"), 422);
            assertThat(refused.select(".refusal").text()).contains("take one of them away first");
            assertThat(analyst.post("/cases/filters", "show=mine&name=full+3").statusCode())
                    .isEqualTo(302);
        } finally {
            for (int i = 0; i < 20; i++) analyst.post("/cases/filters/drop", "name=full+" + i);
        }
    }
}
