package app.morvet.views.upkeep;

import static app.morvet.Browser.encoded;
import static app.morvet.Browser.to;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.core.estate.Scope;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Groups;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Groups as they are made, looked at before, changed and taken away; and who is in them. */
class GroupPagesTest extends MorvetTest {
    @Autowired
    Groups groups;

    private String mark;
    private Browser lead;

    @BeforeEach
    void aQuayWithWhatStandsOnIt() throws Exception {
        mark = "q" + UUID.randomUUID().toString().substring(0, 8);
        for (var part : new String[] {"host", "gate", "desk"})
            estate.add(mark + "-" + part, mark + " " + part, part.equals("host") ? "host" : "service", null);
        estate.standsOn(mark + "-gate", mark + "-host");
        estate.standsOn(mark + "-desk", mark + "-gate");
        lead = loggedIn("lead");
    }

    private String form(String name, String more) {
        return "version=0&contact=" + encoded("Quay crew, quay@sundrava.example") + "&name=" + encoded(name) + more;
    }

    private String byRule() {
        return "&byRule=yes&component=host&pattern=" + mark + "-*&onIt=yes";
    }

    private List<Estate.Component> covered(Scope scope) {
        return estate.components().stream()
                .filter(one -> scope.takes(estate.factsOf(one)))
                .toList();
    }

    private Groups.Group group(String name) {
        return estate.groups().stream()
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whatARuleTakesInIsSeenBeforeItIsKeptAndWhatFitsLaterIsInItToo() throws Exception {
        assertThat(lead.post("/estate/groups/0/covered", form(mark, byRule())).body())
                .contains("3 components: %1$s desk, %1$s gate, %1$s host.".formatted(mark));
        assertThat(to(lead.post("/estate/groups/0", form(mark, byRule())))).isEqualTo("/estate/groups");
        var row =
                lead.page("/estate/groups").select("tr:contains(" + mark + ")").text();
        assertThat(row)
                .contains("each host named " + mark + "-* with all that stands on it")
                .contains("3 Quay crew, quay@sundrava.example");
        estate.add(mark + "-later", mark + " later", "host", null);
        assertThat(groups.members(group(mark))).hasSize(4);
        assertThat(covered(Scope.ALL.inGroup(mark).ofKind("service"))).hasSize(2);
        assertThat(lead.page("/estate?q=" + encoded("groups:" + mark))
                        .select("main table a[href^=/estate/components/" + mark + "]"))
                .hasSize(4);
        assertThat(jdbc.sql("select after from audit_entry where subject = :subject")
                        .param("subject", "group " + mark)
                        .query(String.class)
                        .single())
                .contains("with all that stands on it", "ask Quay crew");
    }

    @Test
    void byHandItIsWhoIsNamedUntilSomebodyIsTakenOut() throws Exception {
        lead.post("/estate/groups/0", form(mark, "&byHand=" + encoded(mark + "-gate\n" + mark + " HOST")));
        assertThat(groups.members(group(mark))).hasSize(2);
        var id = group(mark).id();
        var edit = lead.page("/estate/groups/" + id + "/edit");
        assertThat(edit.select("textarea").text()).contains(mark + " gate", mark + " host");
        assertThat(edit.select("input[name=byRule]").hasAttr("checked")).isFalse();
        var changed = form(mark, "&byHand=" + mark + "-gate").replace("version=0", "version=1");
        lead.post("/estate/groups/" + id, changed);
        assertThat(groups.members(group(mark))).singleElement().satisfies(it -> assertThat(it.key())
                .isEqualTo(mark + "-gate"));
        // Who comes later with what was there before is told.
        var late = lead.post("/estate/groups/" + id, changed);
        assertThat(late.statusCode()).isEqualTo(422);
        assertThat(late.body()).contains("Somebody else changed this group meanwhile");

        lead.post("/estate/groups/" + id + "/delete", "");
        assertThat(estate.groups()).noneMatch(one -> one.id() == id);
        assertThat(covered(Scope.ALL.inGroup(mark))).isEmpty();
    }

    @Test
    void whatCannotBeIsSaidAndWhatWasTypedStays() throws Exception {
        lead.post("/estate/groups/0", form(mark, byRule()));
        for (var wrong : new String[][] {
            {form("", byRule()), "A group has a name"},
            {form(mark, byRule()), "There is a group \"" + mark + "\" already"},
            {form(mark + "2", ""), "Say what is in it"},
            {form(mark + "2", "&byHand=nobody-" + mark), "There is no component \"nobody-" + mark + "\""},
            {form(mark + "2", "&byRule=yes&group=" + mark), "The rule of a group can name no group"},
            {form(mark + "2", "&byRule=yes&tier=9"), "A tier is 1, 2, 3 or 4"}
        }) {
            var answer = lead.post("/estate/groups/0", wrong[0]);
            assertThat(answer.statusCode()).as(wrong[1]).isEqualTo(422);
            assertThat(Browser.shown(answer, 422).text()).contains(wrong[1]);
            assertThat(answer.body()).contains("quay@sundrava.example");
        }
        assertThat(loggedIn("analyst")
                        .post("/estate/groups/0", form(mark + "3", byRule()))
                        .statusCode())
                .isEqualTo(403);
    }

    @Test
    void aGuardAndAWindowStandOverAGroup() throws Exception {
        lead.post("/estate/groups/0", form(mark, byRule()));
        tell("crowd{component=\"" + mark + "-desk\"} 1\ncrowd{component=\"" + mark + "-other\"} 1\n");
        var guard = lead.post(
                        "/guards/meaning",
                        "name=x&kind=limit&measure=crowd&fold=mean&window=sliding&length=15&side=above&warning=1&critical=2&group="
                                + mark)
                .body();
        assertThat(guard).contains("each component in the group " + mark, "it matches 1 subject: ", mark + " desk");
        var window = lead.post(
                        "/windows/sentence",
                        "id=0&version=0&name=w&kind=again&again=cron+0+22+*+*+sat&lasting=60+min&effect=HOLD&group="
                                + mark)
                .body();
        assertThat(window)
                .contains(
                        "hold call-outs for each component in the group " + mark,
                        "It covers 3 components: ",
                        mark + " desk");
    }

    @Test
    void namesAreOfferedAsTheyAreTyped() throws Exception {
        assertThat(lead.page("/estate/names?pattern=" + mark + "+G").select("option"))
                .singleElement()
                .satisfies(it -> assertThat(it.attr("value")).isEqualTo(mark + " gate"));
        assertThat(lead.page("/estate/names").select("option")).hasSizeLessThanOrEqualTo(20);
    }
}
