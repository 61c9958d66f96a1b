package app.morvet.views.shift;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;

/** A screen on a wall shows the estate with a key in place of a log-in, and nothing else. */
class WallTest extends ToldAlerts {
    @Test
    void aScreenShowsTheEstateWithItsKeyUntilThatIsRevoked() throws Exception {
        var host = component("host");
        raised(guard("hot"), host, (int) Duration.between(T, Instant.now()).toMinutes() - 5, CRITICAL, 9);
        var lead = loggedIn("lead");
        assertThat(lead.post("/shift/walls", "name=+").body()).contains("Say where the screen is");
        var address = Browser.shown(lead.post("/shift/walls", "name=Above+the+desk"))
                .select("pre")
                .text()
                .replaceFirst("https?://[^/]+", "");
        var screen = browser();
        var wall = screen.page(address);
        assertThat(wall.select(".shift-sentence").text()).isNotEmpty();
        assertThat(wall.select("meta[http-equiv=refresh]").attr("content")).startsWith("20;url=/wall?key=mw_");
        assertThat(wall.select("a, form, nav"))
                .as("nothing to go to, nothing to do")
                .isEmpty();
        assertThat(screen.get("/shift").statusCode())
                .as("the key opens nothing else")
                .isEqualTo(302);
        assertThat(screen.get("/shift?key=" + address.replaceFirst(".*key=", ""))
                        .statusCode())
                .isEqualTo(302);
        var revoke = lead.page("/shift/walls")
                .select("tr:contains(Above the desk) form")
                .first()
                .attr("action");
        lead.post(revoke, "");
        assertThat(screen.get(address).statusCode()).isEqualTo(401);
        assertThat(screen.get("/wall").body()).contains("Its key is not known, or was revoked.");
    }

    /** Whatever is typed, a page of it is shown: after the last comes the first. */
    @Test
    void itsPagesTurn() throws Exception {
        var lead = loggedIn("lead");
        var address = Browser.shown(lead.post("/shift/walls", "name=In+the+hall"))
                .select("pre")
                .text()
                .replaceFirst("https?://[^/]+", "");
        for (var page : new String[] {"0", "7", "-3", "2000000000"})
            assertThat(browser().get(address + "&page=" + page).statusCode()).isEqualTo(200);
    }
}
