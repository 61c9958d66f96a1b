package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.core.guard.Watch;
import app.morvet.ground.base.YamlFile;
import com.networknt.schema.InputFormat;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Guards through their pages: changed, versioned, doubted, proposed, taken out and in as a file. */
class GuardPagesTest extends MorvetTest {
    @Autowired
    GuardFile file;

    private Browser lead;

    @BeforeEach
    void logIn() throws Exception {
        lead = loggedIn("lead");
    }

    private StoredGuard guardOf(Subject subject) {
        return guards.all().stream()
                .filter(one -> one.watch().equals(Watch.of("failed_messages").named(subject.key())))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void ofTwoWhoChangeAGuardTheSecondIsTold() {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        var seen = guardOf(subject);
        var renamed = new StoredGuard(
                seen.id(), "Renamed " + subject.key(), true, seen.watch(), seen.rule(), "", null, seen.version());
        guards.change(renamed, person("lead"));
        assertThatThrownBy(() -> guards.change(renamed, person("admin"))).isInstanceOf(Guards.Overtaken.class);
        assertThat(guards.byId(seen.id()).version()).isEqualTo(seen.version() + 1);
    }

    @Test
    void eachChangeIsAVersionAndOneCanGoBackToAny() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        var first = guardOf(subject);
        lead.post("/guards/" + first.id() + "/switch", "");
        var page = lead.page("/guards/" + first.id() + "/versions").text();
        assertThat(page).contains("(off) Watch failed messages", "Joel Varis", "Back to this", "in force");
        assertThat(lead.post("/guards/" + first.id() + "/versions/1", "").statusCode())
                .isEqualTo(302);
        assertThat(guards.byId(first.id()).active()).isTrue();
        assertThat(guards.byId(first.id()).version()).isEqualTo(3);
    }

    @Test
    void aDeletedGuardIsGoneFromTheListAndKeptInTheRecord() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        var one = guardOf(subject);
        assertThat(lead.post("/guards/" + one.id() + "/delete", "version=1")
                        .headers()
                        .firstValue("location")
                        .orElse(""))
                .endsWith("/guards");
        assertThat(lead.get("/guards/" + one.id()).statusCode()).isEqualTo(404);
        assertThat(lead.get("/guards/" + one.id() + "/versions").body()).contains("deleted");
        assertThat(guards.byId(one.id()).deleted()).isTrue();
    }

    @Test
    void aMistypedNameMatchesNothingAndTheNearestIsNamed() throws Exception {
        var subject = subject();
        var typed = subject.key().replace("if-", "fi-");
        var answer = lead.post(
                "/guards/meaning",
                "name=x&kind=limit&measure=failed_messages&fold=sum&window=sliding&length=15&side=above&warning=1&critical=2&pattern="
                        + typed,
                "HX-Request",
                "true");
        assertThat(answer.body()).contains("It matches nothing, so it can never alert.", "Did you mean &quot;");
    }

    @Test
    void theBenchReplaysAndProposesAndOnlyALeadMakesGuards() throws Exception {
        var subject = subject();
        fail(subject, 4);
        var form =
                "name=x&kind=limit&measure=failed_messages&fold=sum&window=sliding&length=15&side=above&warning=2&critical=9&days=1&pattern="
                        + subject.key();
        eventually(() -> {
            var picture = json.readTree(lead.post("/guards/picture", form).body());
            assertThat(picture.path("edited").path("alerts").asInt()).isEqualTo(1);
            assertThat(picture.path("alerts").get(0).path("worst").asString()).isEqualTo("4");
            assertThat(picture.path("drawn")
                            .get(0)
                            .path("curve")
                            .path("warning")
                            .get(0)
                            .asDouble())
                    .isEqualTo(2);
        });
        assertThat(lead.post("/guards/propose", form + "&budget=10").body()).contains("Take these limits", "proposed");
        assertThat(lead.post("/guards/propose", form + "&budget=none").body()).contains("Give a budget");
        var analyst = loggedIn("analyst");
        assertThat(analyst.post("/guards/picture", form).statusCode()).isEqualTo(200);
        assertThat(analyst.get("/guards/new").statusCode()).isEqualTo(403);
        assertThat(analyst.get("/guards").body()).doesNotContain("New guard");
    }

    @Test
    void anAnalystSetsLimitsHoursAndFixNoteWithAReasonAndNothingElse() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        long id = jdbc.sql("select max(id) from guard").query(Long.class).single();
        var before = guards.byId(id);
        var analyst = loggedIn("analyst");
        var sent = "version=" + before.version()
                + "&name=Mine+now&measure=disk_used&kind=limit&fold=max&window=sliding&length=20+min&side=below&warning=7&critical=33"
                + "&inside=50&hours=some&onmonday=yes&from=07:00&to=19:00&fixNote=Call+the+partner&grouping=guard&owner=1";
        var without = analyst.post("/guards/" + id, sent);
        assertThat(without.statusCode()).isEqualTo(422);
        assertThat(without.body()).contains("Say why, for whoever looks at the limits next.", "value=\"7\"");
        assertThat(analyst.post("/guards/" + id, sent + "&why=Seven+is+enough").statusCode())
                .isEqualTo(302);
        var after = guards.byId(id);
        assertThat(after.name()).isEqualTo(before.name());
        assertThat(after.watch()).isEqualTo(before.watch());
        assertThat(after.owner()).isEqualTo(before.owner());
        assertThat(after.fixNote()).isEqualTo("Call the partner");
        assertThat(guards.sentence(after))
                .contains("Warn above 7, critical above 33", "over the last 20 min", "on Monday from 07:00 to 19:00");
        assertThat(after.rule().terms().clearing())
                .isEqualTo(before.rule().terms().clearing());
        assertThat(after.rule().terms().grouping())
                .isEqualTo(before.rule().terms().grouping());
        assertThat(analyst.get("/guards/" + id + "/versions").body()).contains("because: Seven is enough");
        for (var path : List.of(
                "/guards/0",
                "/guards/" + id + "/switch",
                "/guards/" + id + "/delete?version=1",
                "/guards/" + id + "/versions/1",
                "/guards/ready-made/host-disk",
                "/guards/file",
                "/guards/file/apply"))
            assertThat(analyst.post(path, "name=x").statusCode()).as(path).isEqualTo(403);
        assertThat(analyst.get("/guards/" + id + "/edit").body()).contains("inert=\"inert\"");
        assertThat(loggedIn("lead").get("/guards/" + id + "/edit").body()).doesNotContain("inert=");
    }

    @Test
    void theFileOfAllGuardsFitsItsSchemaAndBringsNoChangeWhenItIsReadAgain() throws Exception {
        guard(subject(), Duration.ofMinutes(10));
        var yaml = lead.get("/guards/file/guards.yaml").body();
        var schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                .getSchema(lead.get("/guards/file/guards.schema.json").body());
        assertThat(schema.validate(yaml, InputFormat.YAML)).isEmpty();
        var read = file.read(yaml);
        assertThat(read.faults()).isEmpty();
        assertThat(read.changes()).isEmpty();
        assertThat(read.same()).isEqualTo(guards.all().size());
    }

    @Test
    void aFileBringsGuardsInAllOrNoneAndTellsWhatIsWrongByLine() throws Exception {
        var name = "Filed " + Instant.now();
        var good =
                """
                guards:
                  - name: %s both
                    active: false
                    watch: {kind: interface}
                    rule: {kind: combination, expression: a and not b, members: ["%s one", "%s two"], severity: critical}
                  - name: %s one
                    active: false
                    watch: {measure: failed_messages, kind: interface}
                    rule: {kind: limit, overLast: PT15M, fold: sum, warning: 5, critical: 50, clearTime: PT5M}
                    fixNote: |
                      Look.
                  - name: %s two
                    active: false
                    watch: {measure: failed_messages}
                    rule: {kind: silence, warning: 3}
                """
                        .formatted(name, name, name, name, name);
        var wrong = good.replace("warning: 5,", "warning: 500,").replace("overLast: PT15M", "overLast: soon")
                + "  - nme: x\n";
        assertThat(file.read(wrong).faults())
                .extracting(YamlFile.Fault::line, YamlFile.Fault::words)
                .contains(org.assertj.core.api.Assertions.tuple(
                        9, "overLast: must be a duration as in ISO 8601, such as PT15M"))
                .anyMatch(fault -> fault.toList().getFirst().equals(16));
        assertThat(lead.post("/guards/file/apply", "text=" + Browser.encoded(wrong))
                        .body())
                .contains("Nothing is changed while");
        assertThat(guards.all()).noneMatch(one -> one.name().startsWith(name));
        assertThat(lead.post("/guards/file", "text=" + Browser.encoded(good)).body())
                .contains("Change these 3 guards");
        assertThat(lead.post("/guards/file/apply", "text=" + Browser.encoded(good))
                        .body())
                .contains("3 guards changed.");
        assertThat(file.read(good).same()).isEqualTo(3);
        assertThat(file.read("guards: [*x]").faults()).isNotEmpty();
        assertThat(file.read("- a\n- b").faults().getFirst().words()).contains("begins with");
        // What others are made of cannot be taken away.
        var one = guards.all().stream()
                .filter(it -> it.name().equals(name + " one"))
                .findFirst()
                .orElseThrow();
        assertThatThrownBy(() -> guards.delete(one.id(), 1, person("lead"))).isInstanceOf(Guards.StoodOn.class);
    }

    @Test
    void whatIsReadyMadeIsOfferedWhereItFitsAndSwitchedOnWithOneClick() throws Exception {
        tell("# TYPE queue_depth gauge\nqueue_depth{component=\"queue-ready\",kind=\"queue\"} 3\n");
        assertThat(lead.get("/guards/ready-made").body())
                .contains("Queue does not drain", "Switch on Queue does not drain");
        assertThat(lead.post("/guards/ready-made/queue-depth", "").statusCode()).isEqualTo(302);
        assertThat(guards.all()).anyMatch(one -> one.name().equals("Queue does not drain") && one.active());
        assertThat(lead.get("/guards/ready-made").body()).doesNotContain("Switch on Queue does not drain");
    }
}
