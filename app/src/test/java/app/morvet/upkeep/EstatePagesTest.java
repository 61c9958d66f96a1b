package app.morvet.upkeep;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.estate.Estate;
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
        assertThat(lead.get("/estate/components/" + key).body()).contains("Quay 9", "It stands alone.");
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
        assertThat(lead.get("/estate/applications").statusCode()).isEqualTo(200);
        assertThat(lead.get("/estate/standing").statusCode()).isEqualTo(200);
        assertThat(lead.get("/estate/feeds").body()).contains("Test feed");
    }
}
