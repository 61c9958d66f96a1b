package app.morvet.views.components;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import org.junit.jupiter.api.Test;

/** What stands on what around a component, and what would be hurt if it stopped. */
class MapTest extends ToldAlerts {
    @Test
    void whatIsNeededStandsLeftWhatDependsRightAndTroubleStandsUp() throws Exception {
        var host = component(host());
        var service = component("service");
        var endpoint = component("endpoint");
        estate.standsOn(service.key(), host.key());
        estate.needs(endpoint.key(), service.key());
        raised(guard("Hot"), host, 0, CRITICAL, 9);
        var analyst = loggedIn("analyst");
        var map = analyst.page("/estate/map?centre=" + service.key());
        var nodes = map.select(".estate-map .node");
        assertThat(nodes.eachAttr("href"))
                .containsExactly(
                        "/estate/map?centre=" + host.key(),
                        "/estate/map?centre=" + service.key(),
                        "/estate/map?centre=" + endpoint.key());
        assertThat(nodes.get(0).className()).contains("piece-critical");
        assertThat(nodes.get(1).className()).contains("centre").contains("piece-steady");
        assertThat(map.select(".estate-map path.stands")).hasSize(1);
        assertThat(map.select(".estate-map path.needs")).hasSize(1);
        assertThat(map.select("table tbody tr td, table tr td").eachText())
                .containsExactly("1", "Application of " + endpoint.key(), "1", "The " + endpoint.key());
        assertThat(analyst.page("/estate/map?centre=" + endpoint.key()).text())
                .contains("Nothing that is known depends on it.");
        assertThat(analyst.get("/estate/map?centre=nowhere").statusCode()).isEqualTo(404);
        assertThat(analyst.get("/estate/map").statusCode()).isEqualTo(200);
    }
}
