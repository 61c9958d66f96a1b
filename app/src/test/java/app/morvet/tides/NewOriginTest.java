package app.morvet.tides;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.Mailed;
import app.morvet.ToldAlerts;
import app.morvet.alerting.alerts.AlertDesk;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Finding;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Topic;
import app.morvet.work.handoffs.TicketWords;
import java.time.Instant;
import java.util.List;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * A sort of rule of which the application knows nothing goes the whole way, from what it finds to a case, a ticket and a
 * mail, and to its end: it is a bean and a call of the desk, and nothing else was written for it.
 */
class NewOriginTest extends ToldAlerts {
    @Autowired
    private AlertDesk alerts;

    @Autowired
    private TicketWords tickets;

    @Autowired
    private TransactionTemplate transaction;

    private static final long TABLE = 4;

    private void found(Instant now, Finding... findings) {
        transaction.executeWithoutResult(status -> alerts.found(TideOrigins.KIND, List.of(findings), now));
    }

    private static Finding low(About about, Severity level, double value, Instant since) {
        var words = "The water at ramp %d is %.0f cm too low".formatted(about.component(), value);
        return new Finding(TideOrigins.origin(TABLE), "c" + about.component(), about, level, value, words, since, "");
    }

    @Test
    void whatItFindsBecomesACaseATicketAndAMailAndEnds() throws Exception {
        var ramp = component(host());
        var words = "The water at ramp %d is 34 cm too low".formatted(ramp.id());
        found(at(0), low(About.of(ramp.id()), WARNING, 12, at(-3)));
        found(at(5), low(About.of(ramp.id()), CRITICAL, 34, at(-3)));

        var one = theCase(ramp);
        assertThat(one.headline()).isEqualTo(words);
        assertThat(one.severity()).isEqualTo(CRITICAL);
        assertThat(one.openedAt()).isEqualTo(at(-3));
        var page = Jsoup.parse(loggedIn("analyst").get("/cases/" + one.id()).body());
        assertThat(page.text())
                .contains(words)
                .contains("34 cm under the ramp", "warn above 10 cm", "Tide table 4")
                .contains("Warn when the water is lower than the ramp.")
                .doesNotContain("Failed");
        assertThat(page.select("a[href=/tides/4]")).isNotEmpty();
        assertThat(page.select("strong").eachText()).contains("long ramp");
        assertThat(tickets.story(one)).contains(words, "34 cm under the ramp").doesNotContain("messages");
        eventually(() -> assertThat(MAIL.getReceivedMessagesForDomain(ramp.mail()))
                .singleElement()
                .satisfies(mail -> {
                    assertThat(mail.getSubject()).contains(words);
                    assertThat(Mailed.text(mail)).contains("34 cm under the ramp", "warn above 10 cm");
                }));

        found(at(9));
        var over = theCase(ramp);
        assertThat(over.overSince()).isEqualTo(at(9));
        assertThat(over.headline()).isEqualTo("Over on The " + ramp.key() + "; at worst: " + words);
        assertThat(jdbc.sql("select subject from delivery where case_id = :id and about = 'OVER'")
                        .param("id", one.id())
                        .query(String.class)
                        .list())
                .containsExactly(over.headline() + " (case " + one.id() + ")");
    }

    @Test
    void whatItFindsOnSeveralComponentsOfOneCauseIsOneCaseAndMoreUrgent() throws Exception {
        var pier = component(host());
        var first = component(host());
        var second = component(host());
        found(at(0), low(About.causedBy(pier.id(), first.id()), WARNING, 12, at(0)));
        var browser = loggedIn("analyst");
        assertThat(urgencyOf(browser, theCase(pier).id())).contains("spread +5");
        found(
                at(1),
                low(About.causedBy(pier.id(), first.id()), WARNING, 12, at(0)),
                low(About.causedBy(pier.id(), second.id()), WARNING, 12, at(0)));
        assertThat(casesOf(first)).isEmpty();
        assertThat(casesOf(second)).isEmpty();
        var page = Jsoup.parse(browser.get("/cases/" + theCase(pier).id()).body());
        assertThat(page.text()).contains("Tide table 4 on The " + first.key(), "Tide table 4 on The " + second.key());
        // The same note is said once.
        assertThat(page.select(".fixnote")).hasSize(1);
        // The one that causes it, and the two on which it shows.
        assertThat(urgencyOf(browser, theCase(pier).id())).contains("spread +10");
        found(at(2));
    }

    /** As its dossier says it: of the list of all cases nobody knows how long it is. */
    private static String urgencyOf(Browser browser, long id) throws Exception {
        return Jsoup.parse(browser.get("/cases/" + id).body())
                .select("#dossier-facts")
                .text();
    }

    @Test
    void twoTopicsOfOneComponentAreTwoCases() {
        var ramp = component(host());
        var origin = TideOrigins.origin(TABLE);
        found(
                at(0),
                new Finding(
                        origin,
                        "low",
                        About.of(ramp.id(), Topic.one("tides", "low")),
                        WARNING,
                        3,
                        "Too low",
                        at(0),
                        ""),
                new Finding(
                        origin,
                        "fast",
                        About.of(ramp.id(), Topic.one("tides", "fast")),
                        WARNING,
                        3,
                        "Too fast",
                        at(0),
                        ""));
        assertThat(casesOf(ramp))
                .extracting(row -> row.get("headline"))
                .containsExactlyInAnyOrder("Too low", "Too fast");
        found(at(1));
    }
}
