package app.morvet.views.links;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Links out of Morvet: kept by a lead, filled with the facts of the case or the component from which they lead. */
class LinksOutTest extends ToldAlerts {
    private static Map<String, String> link(String about, String subject, String name, String template) {
        return Map.of("about", about, "subject", subject, "name", name, "template", template);
    }

    @Test
    void theyLeadFromCasesAndComponentsToWhatThoseAreAbout() throws Exception {
        var host = component(host());
        var service = component("service");
        estate.standsOn(service.key(), host.key());
        var lead = loggedIn("lead");
        var of = "app-" + service.key();
        lead.post(
                "/estate/links",
                link(
                        "application",
                        of,
                        "Log",
                        "https://logs.example/find?on={host}&for={component}&from={from}&n={case}"));
        lead.post("/estate/links", link("component", service.key(), "Page", "https://logs.example/{environment}"));
        raised(guard("Hot"), service, 0, CRITICAL, 9);
        var one = theCase(service);
        var links = loggedIn("analyst").page("/cases/" + one.id()).select("h2:contains(Look further) + p a");
        assertThat(links.eachText()).containsExactly("Log", "Page");
        assertThat(links.getFirst().attr("href"))
                .isEqualTo("https://logs.example/find?on=%s&for=%s&from=%s&n=%d"
                        .formatted(
                                host.key(),
                                service.key(),
                                one.firstSeen().minusSeconds(900).toString().replace(":", "%3A"),
                                one.id()));
        assertThat(links.getFirst().attr("rel")).contains("noreferrer").contains("noopener");
        var page = lead.page("/estate/components/" + service.key());
        assertThat(page.select("a[href^=https://logs.example/find]").attr("href"))
                .endsWith("&n=");
        assertThat(lead.page("/estate/components/" + host.key()).select("a[href^=https://logs.example]"))
                .isEmpty();
    }

    @Test
    void whatIsNoLinkIsRefusedSaysWhyAndIsKeptInTheForm() throws Exception {
        var host = component(host());
        var lead = loggedIn("lead");
        var refused = Browser.shown(
                lead.post("/estate/links", link("component", host.key(), "Log", "javascript:alert({name})")));
        assertThat(refused.select("[role=alert]").text()).contains("begins with https://");
        assertThat(refused.select("#l-subject").val()).isEqualTo(host.key());
        assertThat(refused.select("#l-template").val()).isEqualTo("javascript:alert({name})");
        assertThat(lead.post("/estate/links", link("component", "nowhere", "Log", "https://logs.example/"))
                        .body())
                .contains("There is no component &quot;nowhere&quot;.");
        assertThat(lead.post("/estate/links", link("planet", "x", "Log", "https://logs.example/"))
                        .body())
                .contains("A link is of one of");
        assertThat(lead.post("/estate/links", link("component", host.key(), " ", "https://logs.example/"))
                        .body())
                .contains("A link has a name");
        assertThat(loggedIn("analyst")
                        .post("/estate/links", link("component", host.key(), "Log", "https://logs.example/"))
                        .statusCode())
                .isEqualTo(403);
    }

    @Test
    void itIsThereOnceAndRemovedAndTheRecordSaysWhoDidSo() throws Exception {
        var host = component(host());
        var lead = loggedIn("lead");
        var link = link("component", host.key(), "Log", "https://logs.example/");
        lead.post("/estate/links", link);
        assertThat(lead.post("/estate/links", link).body()).contains("already");
        var form = lead.page("/estate/links").select("tr:contains(" + host.key() + ") form");
        lead.post(form.attr("action"), "");
        assertThat(lead.page("/estate/links").text()).doesNotContain(host.key());
        assertThat(jdbc.sql("select what from audit_entry where subject = :subject order by id")
                        .param("subject", "component " + host.key())
                        .query(String.class)
                        .list())
                .containsExactly("link made", "link removed");
    }
}
