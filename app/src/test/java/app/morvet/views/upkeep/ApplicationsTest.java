package app.morvet.views.upkeep;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Applications are looked through a page at a time and changed one at a time, whatever their number. */
class ApplicationsTest extends MorvetTest {
    private static final String ALL = "/estate/applications";

    private Subject subject;
    private Browser lead;

    @BeforeEach
    void anApplication() throws Exception {
        subject = subject();
        lead = loggedIn("lead");
    }

    private String ours() {
        return ALL + "?q=app-" + subject.key();
    }

    private String change(String form) {
        return form + "&environment=production&q=app-" + subject.key();
    }

    @Test
    void aPageOfThemIsShownAndTheOthersAreAPageFurther() throws Exception {
        for (int one = 0; one < 51; one++)
            estate.addApplication("fleet-%s-%02d".formatted(subject.key(), one), "Hull " + one, 4, subject.team());
        var search = ALL + "?q=fleet-" + subject.key();
        var first = lead.page(search);
        assertThat(first.select("tbody tr")).hasSize(50);
        assertThat(first.text()).contains("51 applications");
        assertThat(first.select(".more a").eachText()).containsExactly("Later");
        var second = lead.page(first.select(".more a").attr("href"));
        assertThat(second.select("tbody tr")).hasSize(1);
        assertThat(second.select(".more a").eachText()).containsExactly("Earlier");
        assertThat(lead.page(search + "&from=999999").select("tbody tr")).isEmpty();
        assertThat(lead.page(ALL).select("tbody tr")).hasSize(50);
    }

    @Test
    void theyAreFoundByWhateverIsSaidOfThem() throws Exception {
        var name = "Application of " + subject.key();
        for (var words : new String[] {
            "app-" + subject.key(),
            "application " + subject.key(),
            "TEAM " + subject.key() + " tier:1",
            "environment:production " + subject.key(),
            "team:\"team of " + subject.key() + "\""
        })
            assertThat(lead.texts(ALL + "?q=" + encoded(words), "tbody td:first-child"))
                    .as(words)
                    .contains(name);
        assertThat(lead.page(ours() + encoded(" tier:2")).text()).contains("Nothing fits.");
    }

    @Test
    void itsTierAndItsTeamAreChangedInItsRow() throws Exception {
        var other = subject();
        var page = lead.page(ours());
        assertThat(page.select("tbody form")).isEmpty();
        var open = lead.page(page.select("tbody a[aria-label^=Change]").attr("href"));
        assertThat(open.select("tbody form [name=name]").val()).isEqualTo("Application of " + subject.key());
        assertThat(open.select("tbody form [name=team] option[selected]").val()).isEqualTo("" + subject.team());
        var saved =
                lead.post(open.select("tbody form").attr("action"), change("name=Renamed&tier=3&team=" + other.team()));
        assertThat(saved.statusCode()).isEqualTo(302);
        assertThat(saved.headers().firstValue("location").orElse(""))
                .endsWith("/estate/applications?q=app-" + subject.key());
        var changed = estate.application("app-" + subject.key()).orElseThrow();
        assertThat(changed.name()).isEqualTo("Renamed");
        assertThat(changed.tier().number()).isEqualTo(3);
        assertThat(changed.teamId()).isEqualTo(other.team());
        assertThat(lead.page(ours()).select("tbody").text()).contains("Renamed").contains("Team of " + other.key());
        assertThat(lead.get(ALL + ".csv").body()).contains("app-" + subject.key() + ",Renamed,3,production");
    }

    @Test
    void whatIsRefusedStandsInTheFormStill() throws Exception {
        var path = ALL + "/app-" + subject.key();
        var refused = Browser.shown(lead.post(path, change("name=&tier=4&team=" + subject.team())), 422);
        assertThat(refused.select(".refusal").text())
                .isEqualTo("Application of " + subject.key() + ": A name is needed.");
        assertThat(refused.select("tbody form [name=name]").val()).isEmpty();
        assertThat(refused.select("tbody form [name=tier] option[selected]").val())
                .isEqualTo("4");
        var nowhere = lead.post(path, "name=Moon&tier=1&environment=moon&team=" + subject.team());
        assertThat(Browser.shown(nowhere, 422).select(".refusal").text())
                .endsWith("The environment is production, rehearsal or development, was \"moon\".");
        var nobodys = lead.post(ALL, "name=Nobodys+own&tier=2&environment=rehearsal&team=0");
        var form = Browser.shown(nobodys, 422).select("main form[action=/estate/applications][method=post]");
        assertThat(form.select("[name=name]").val()).isEqualTo("Nobodys own");
        assertThat(form.select("option[selected]").eachAttr("value")).containsExactly("2", "rehearsal");
        assertThat(lead.post(ALL + "/app-of-nobody", change("name=a&tier=1&team=1"))
                        .statusCode())
                .isEqualTo(404);
    }

    @Test
    void whoOnlyWatchesIsOfferedNoChange() throws Exception {
        var page = loggedIn("analyst").page(ours() + "&change=app-" + subject.key());
        assertThat(page.select("tbody tr")).hasSize(1);
        assertThat(page.select("main form[method=post], main a[aria-label^=Change]"))
                .isEmpty();
    }
}
