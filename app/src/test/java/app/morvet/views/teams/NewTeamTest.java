package app.morvet.views.teams;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.Test;

/** Who begins with nothing makes teams, and what they own. */
class NewTeamTest extends MorvetTest {
    @Test
    void aLeadMakesATeamAndAnApplicationThatItOwns() throws Exception {
        var key = subject().key();
        var lead = loggedIn("lead");
        var name = "Quay " + key;
        var form = "name=" + Browser.encoded(name) + "&mail=quay%40sundrava.example";
        assertThat(loggedIn("analyst").post("/estate/teams", form).statusCode()).isEqualTo(403);
        var refused = lead.post("/estate/teams", "name=" + Browser.encoded(name) + "&mail=quay");
        assertThat(refused.statusCode()).isEqualTo(422);
        var shown = Jsoup.parse(refused.body());
        assertThat(shown.select(".refusal").text()).isEqualTo("\"quay\" is no mail address.");
        assertThat(shown.select("#team-name").val()).isEqualTo(name);
        assertThat(lead.post("/estate/teams", form).statusCode()).isEqualTo(302);
        var made = estate.team("quay-" + key).orElseThrow();
        assertThat(made.mail()).isEqualTo("quay@sundrava.example");
        assertThat(lead.post("/estate/teams", form).body()).contains("There is a team of that name already.");
        var application =
                "name=" + Browser.encoded("Cranes " + key) + "&tier=2&environment=production&team=" + made.id();
        lead.post("/estate/applications", application);
        var cranes = estate.application("cranes-" + key).orElseThrow();
        assertThat(cranes.teamId()).isEqualTo(made.id());
        assertThat(cranes.tier().number()).isEqualTo(2);
        assertThat(lead.post("/estate/applications", application).body())
                .contains("There is an application of that name already.");
        assertThat(lead.post("/estate/applications", "name=Nobodys&team=0").body())
                .contains("Choose the team that owns it.");
    }
}
