package app.morvet.views.upkeep;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.ground.estate.Estate;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** The Estate pages: looked through, named in place and in bulk. */
class EstatePagesTest extends MorvetTest {
    @Autowired
    EstateFile file;

    @Autowired
    EstateSearch search;

    private String newcomer() {
        setUpOnce();
        var key = "newcomer-" + Instant.now().toEpochMilli() + "-" + System.nanoTime() % 1000;
        estate.register(List.of(new Estate.Newcomer(key, "host")));
        return key;
    }

    @Test
    void itIsSearchedByAnyAttributeOrByOne() {
        var subject = subject();
        assertThat(search.find("key:" + subject.key() + " kind:interface")).hasSize(1);
        assertThat(search.find("\"team of " + subject.key() + "\"")).hasSize(1);
        assertThat(search.find("key:" + subject.key() + " kind:host")).isEmpty();
        assertThat(search.find("tier:1 " + subject.key() + "\"")).isNotEmpty();
    }

    @Test
    void aNewcomerIsNamedAndAssignedInPlaceByALeadAndTheRecordSaysSo() throws Exception {
        var key = newcomer();
        var subject = subject();
        var form = "name=Quay+9&application=app-" + subject.key();
        assertThat(loggedIn("analyst").post("/estate/components/" + key, form).statusCode())
                .isEqualTo(403);
        var lead = loggedIn("lead");
        assertThat(lead.get("/estate?q=" + key).body()).contains("Assign");
        assertThat(lead.post("/estate/components/" + key, form).statusCode()).isEqualTo(302);
        var named = estate.byKey(key).orElseThrow();
        assertThat(named.name()).isEqualTo("Quay 9");
        assertThat(estate.ownerOf(named).orElseThrow().name()).isEqualTo("Team of " + subject.key());
        assertThat(jdbc.sql("select before || ' > ' || after from audit_entry where subject = :subject")
                        .param("subject", "component " + key)
                        .query(String.class)
                        .single())
                .startsWith(key + ", host, not assigned > Quay 9, host, Application of");
        assertThat(lead.page("/estate/components/" + key).text()).contains("Quay 9", "It stands alone.");
    }

    /** Choices of hundreds of applications for each of many newcomers would be most of the page. */
    @Test
    void anApplicationIsNamedAsPeopleTypeItAndTheChoicesAreOnThePageOnce() throws Exception {
        var one = newcomer();
        var other = newcomer();
        var subject = subject();
        var lead = loggedIn("lead");
        var page = lead.page("/estate?q=application:not");
        assertThat(page.select("input[name=application]").size()).isGreaterThan(1);
        assertThat(page.select("main datalist option").eachAttr("value"))
                .containsOnlyOnce("Application of " + subject.key());
        lead.post("/estate/components/" + one, "name=One&application=" + encoded("application of " + subject.key()));
        assertThat(estate.applicationKeyOf(one)).isEqualTo("app-" + subject.key());
        lead.post("/estate/components/" + other, "name=Other&application=Nowhere");
        assertThat(lead.page("/estate/components/" + other).select(".refusal").text())
                .contains("There is no application \"Nowhere\". Type its name or its key");
        assertThat(estate.applicationKeyOf(other)).isEmpty();
    }

    @Test
    void nothingStandsOnWhatStandsOnIt() throws Exception {
        var ground = newcomer();
        var top = newcomer();
        var lead = loggedIn("lead");
        lead.post("/estate/components/" + top, "name=top&standsOn=" + ground);
        assertThat(lead.get("/estate/components/" + ground).body()).contains("On it stand");
        lead.post("/estate/components/" + ground, "name=ground&standsOn=" + top);
        assertThat(estate.byKey(ground).orElseThrow().standsOn()).isNull();
    }

    @Test
    void namesAndOwnersComeInAsCsvAllOrNone() throws Exception {
        var one = newcomer();
        var other = newcomer();
        var subject = subject();
        var wrong = "key,name,application\n%s,One,app-%s\n%s,Other,nowhere\n".formatted(one, subject.key(), other);
        assertThat(file.read(wrong).faults())
                .containsExactly(new EstateFile.Fault(3, "There is no application \"nowhere\"."));
        var lead = loggedIn("lead");
        assertThat(lead.post("/estate/file/apply", "text=" + Browser.encoded(wrong))
                        .body())
                .contains("Nothing is changed while something is wrong");
        assertThat(estate.byKey(one).orElseThrow().name()).isEqualTo(one);
        var right = wrong.replace("nowhere", "app-" + subject.key());
        assertThat(lead.post("/estate/file", "text=" + Browser.encoded(right)).body())
                .contains("Make these 2 changes");
        assertThat(lead.post("/estate/file/apply", "text=" + Browser.encoded(right))
                        .body())
                .contains("2 changes made.");
        assertThat(estate.byKey(other).orElseThrow().name()).isEqualTo("Other");
        assertThat(file.read(right).same()).isEqualTo(2);
        var tiers = "key,tier,team\napp-%s,3,team-%s\n".formatted(subject.key(), subject.key());
        assertThat(file.read(tiers).changes()).singleElement().satisfies(change -> assertThat(change.after())
                .contains("tier 3"));
        assertThat(file.read("name\nx\n").faults().getFirst().words()).contains("no column \"key\"");
        assertThat(file.read("key,tier\napp-" + subject.key() + ",9\n")
                        .faults()
                        .getFirst()
                        .words())
                .contains("A tier is 1, 2, 3 or 4");
    }

    @Test
    void whatComesOutAsCsvComesInAgainWithoutAChangeAndIsNoFormula() throws Exception {
        var key = newcomer();
        var lead = loggedIn("lead");
        lead.post("/estate/components/" + key, "name=" + Browser.encoded("=1+1"));
        var csv = lead.get("/estate.csv?q=" + key + "&columns=name&columns=key&columns=kind")
                .body();
        assertThat(csv).contains("'=1+1");
        var all = lead.get("/estate.csv?q=kind:interface&columns=key&columns=name&columns=kind&columns=application")
                .body();
        assertThat(file.read(all).changes()).isEmpty();
        assertThat(lead.get("/estate/standing").statusCode()).isEqualTo(200);
        assertThat(lead.get("/estate/feeds").body()).contains("Test feed");
    }

    @Test
    void aFeedIsAddedByWhoMaySetUpAndWhatIsWrongKeepsWhatWasTyped() throws Exception {
        setUpOnce();
        var admin = loggedIn("admin");
        var name = "Weather " + System.nanoTime();
        var wrong = admin.post("/estate/feeds", "name=" + encoded(name) + "&seconds=5&url=");
        assertThat(wrong.statusCode()).isEqualTo(422);
        assertThat(wrong.body())
                .contains("The cadence is a whole number of seconds, 10 or more.")
                .contains(name)
                .contains("value=\"5\"");
        assertThat(admin.post(
                                "/estate/feeds",
                                "name=" + encoded(name) + "&seconds=60&url=" + encoded("http://10.1.1.1/metrics"))
                        .body())
                .contains("Morvet may not call 10.1.1.1:80");
        assertThat(admin.post("/estate/feeds", "name=&seconds=60").body()).contains("A name is needed.");
        var form = "name=" + encoded(name) + "&seconds=90&url=";
        assertThat(admin.post("/estate/feeds", form).statusCode()).isEqualTo(302);
        assertThat(admin.get("/estate/feeds").body())
                .contains(name)
                .contains("1 min 30 s")
                .contains("never yet");
        assertThat(admin.post("/estate/feeds", form).body()).contains("There is a feed of this name already.");
        assertThat(loggedIn("lead").post("/estate/feeds", form).statusCode()).isEqualTo(403);
        assertThat(jdbc.sql("select after from audit_entry where subject = :subject")
                        .param("subject", "feed " + name)
                        .query(String.class)
                        .single())
                .isEqualTo("sends by itself, every 1 min 30 s");
    }

    @Test
    void aComponentShowsItsReadingsItsGuardsItsCasesAndWhatStandsOnIt() throws Exception {
        var subject = subject();
        var ground = newcomer();
        var upper = newcomer();
        tell("heat{component=\"%s\",place=\"bow\"} 41.5\n".formatted(ground));
        var lead = loggedIn("lead");
        lead.post("/estate/components/" + upper, "name=Upper&application=app-" + subject.key() + "&standsOn=" + ground);
        guard(subject, Duration.ofMinutes(10));
        fail(subject, 4);
        var page = lead.get("/estate/components/" + ground).body();
        assertThat(page).contains("41.5").contains("bow").contains("Upper");
        eventually(
                () -> assertThat(lead.get("/estate/components/" + subject.key()).body())
                        .contains("Guard of " + subject.key())
                        .contains("counted from messages")
                        .contains("/cases/"));
        assertThat(lead.get("/estate/standing?application=app-" + subject.key()).body())
                .contains("Upper")
                .contains(ground);
        assertThat(lead.post("/estate/components/" + upper, "name=Upper&standsOn=nothing")
                        .statusCode())
                .isEqualTo(302);
        assertThat(lead.get("/estate/components/" + upper).body()).contains("There is no component with the key");
        assertThat(lead.get("/estate/components/nothing").statusCode()).isEqualTo(404);
    }
}
