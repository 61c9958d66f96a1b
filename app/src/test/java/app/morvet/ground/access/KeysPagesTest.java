package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Intake keys from their making to their end. */
class KeysPagesTest extends MorvetTest {
    private Browser admin;

    @BeforeEach
    void logIn() throws Exception {
        admin = loggedIn("admin");
    }

    private long feed() {
        return estate.feeds().stream()
                .filter(one -> one.key().equals("test"))
                .findFirst()
                .orElseThrow()
                .id();
    }

    @Test
    void aNewKeyIsShownOnceOpensTheIntakeAndCloses() throws Exception {
        var name = "Of the quay " + System.nanoTime();
        var made = Browser.shown(admin.post("/setup/keys", "name=" + Browser.encoded(name) + "&feed=" + feed()));
        var key = made.select(".said b.mono").text();
        assertThat(key).hasSizeGreaterThan(20);
        assertThat(admin.page("/setup/keys").text()).contains(name).doesNotContain(key);
        var subject = subject();
        var events = List.of(failed("of-a-new-key-" + name, subject.key(), Instant.now()));
        assertThat(send(key, "application/cloudevents-batch+json", json.writeValueAsString(events))
                        .statusCode())
                .isEqualTo(202);
        var row = admin.page("/setup/keys")
                .select("tr:has(td:contains(" + name + "))")
                .first();
        assertThat(row.text()).contains("Test feed", "holds");
        admin.post(row.select("form").attr("action"), "");
        assertThat(admin.page("/setup/keys")
                        .select("tr:has(td:contains(" + name + "))")
                        .text())
                .contains("revoked");
        assertThat(send(key, "application/cloudevents-batch+json", json.writeValueAsString(events))
                        .statusCode())
                .isEqualTo(401);
    }

    @Test
    void aKeyNeedsANameAndAFeedAndWhatWasTypedStays() throws Exception {
        for (var typed :
                List.of("name=&feed=" + feed(), "name=Typed&feed=0", "name=" + "x".repeat(101) + "&feed=" + feed())) {
            var page = Browser.shown(admin.post("/setup/keys", typed));
            assertThat(page.select(".refusal").text())
                    .isEqualTo("A key needs a name of at most 100 characters and a feed that it is for.");
            assertThat(page.select(".said")).isEmpty();
        }
        assertThat(Browser.shown(admin.post("/setup/keys", "name=Typed&feed=0"))
                        .select("#key-name")
                        .val())
                .isEqualTo("Typed");
    }

    @Test
    void makingAndRevokingStandInTheRecordWithoutTheKey() throws Exception {
        var name = "In the record " + System.nanoTime();
        var key = Browser.shown(admin.post("/setup/keys", "name=" + Browser.encoded(name) + "&feed=" + feed()))
                .select(".said b.mono")
                .text();
        admin.post(
                admin.page("/setup/keys")
                        .select("tr:has(td:contains(" + name + ")) form")
                        .attr("action"),
                "");
        var record = jdbc.sql(
                        "select what, subject, coalesce(before, '') || coalesce(after, '') as told from audit_entry"
                                + " where subject like '%' || :name || '%' or coalesce(after, '') like '%' || :name || '%' order by id")
                .param("name", name)
                .query()
                .listOfRows();
        assertThat(record).extracting(row -> row.get("what").toString()).hasSize(2);
        assertThat(record).allSatisfy(row -> assertThat(row.toString()).doesNotContain(key));
    }

    @Test
    void setupOpensWithTheDesk() throws Exception {
        assertThat(Browser.to(admin.get("/setup"))).isEqualTo("/setup/desk");
    }
}
