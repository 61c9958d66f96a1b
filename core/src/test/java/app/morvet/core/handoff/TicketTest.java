package app.morvet.core.handoff;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.jayway.jsonpath.JsonPath;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class TicketTest {
    private static final Set<String> KNOWN = Set.of("title", "failures", "samples", "team");
    private static final TicketReading READING = new TicketReading(
            "$.ticket.number",
            "$.ticket.status",
            "$.ticket.resolution.text",
            TicketReading.states("open = sent\n\nIn work = accepted\nback = returned\nclosed = done"));

    @Test
    void aVariableInATextIsSetIntoItAndAloneItKeepsItsType() {
        var template = TicketTemplate.parse(
                """
                {"summary": "Morvet: {{title}} ({{ failures }})", "n": "{{failures}}", "list": "{{samples}}", "fixed": [1, true, null]}""",
                KNOWN);
        var filled =
                template.fill(Map.of("title", "37 failed", "failures", 37L, "samples", List.of(Map.of("key", "MF-1"))));
        assertThat(filled)
                .isEqualTo(
                        """
                {"summary":"Morvet: 37 failed (37)","n":37,"list":[{"key":"MF-1"}],"fixed":[1,true,null]}""");
    }

    @Property
    void nothingInAValueCanChangeTheShapeOfTheTicket(@ForAll String title) {
        var filled = TicketTemplate.parse("{\"summary\": \"x {{title}}\", \"group\": \"freight\"}", KNOWN)
                .fill(Map.of("title", title));
        Map<String, Object> ticket = JsonPath.read(filled, "$");
        assertThat(ticket).containsOnly(Map.entry("summary", "x " + title), Map.entry("group", "freight"));
    }

    @Test
    void aFaultyTemplateIsRefusedWithWhatIsWrong() {
        assertThatThrownBy(() -> TicketTemplate.parse("{\"a\": ", KNOWN))
                .hasMessageStartingWith("the template is not JSON");
        assertThatThrownBy(() -> TicketTemplate.parse("[1]", KNOWN)).hasMessageContaining("must be a JSON object");
        assertThatThrownBy(() -> TicketTemplate.parse("{\"a\": \"{{titel}} {{tem}}\"}", KNOWN))
                .hasMessage(
                        "the template uses tem, titel, which is not known; known are failures, samples, team, title");
    }

    @Test
    void theAnswerIsReadWhereTheSettingsSay() {
        assertThat(READING.read("{\"ticket\": {\"number\": 4711, \"status\": \"in work\"}}"))
                .isEqualTo(new TicketReading.Ticket("4711", HandoffState.ACCEPTED, ""));
        assertThat(
                        READING.read(
                                "{\"ticket\": {\"number\": \"SD-1\", \"status\": \"back\", \"resolution\": {\"text\": \"not ours\"}}}"))
                .isEqualTo(new TicketReading.Ticket("SD-1", HandoffState.RETURNED, "not ours"));
        assertThat(READING.number("{\"ticket\": {\"number\": \"SD-1\"}}")).contains("SD-1");
    }

    @Test
    void anAnswerThatSaysSomethingElseIsNotGuessedAt() {
        assertThatThrownBy(() -> READING.read("{\"error\": \"no\"}"))
                .hasMessage("no ticket number at $.ticket.number in the desk's answer");
        assertThatThrownBy(() -> READING.read("{\"ticket\": {\"number\": 1, \"status\": \"parked\"}}"))
                .hasMessage("the desk's state \"parked\" has no meaning in the connection's settings");
        assertThatThrownBy(() -> READING.read("<html>")).isInstanceOf(TicketReading.Unreadable.class);
    }

    @Test
    void faultySettingsAreRefusedWithTheirPlace() {
        assertThatThrownBy(() -> new TicketReading("$.a[?(", "$.b", "$.c", Map.of()))
                .hasMessageContaining("the JSONPath of the number ($.a[?() is faulty");
        assertThatThrownBy(() -> TicketReading.states("open = sent\nclosed"))
                .hasMessageStartingWith("line 2 of the states");
        assertThatThrownBy(() -> TicketReading.states("open = opened"))
                .hasMessage("line 1 of the states: \"opened\" is not one of sent, accepted, returned, done");
        assertThatThrownBy(() -> TicketReading.states(" ")).hasMessageContaining("at least one");
    }

    @Test
    void theWaitDoublesUpToTheLongestAndEndsWithThePatience() {
        var backOff = new BackOff(Duration.ofSeconds(5), Duration.ofMinutes(2), Duration.ofHours(24));
        assertThat(List.of(1, 2, 3, 4, 5, 6, 1000).stream().map(backOff::after).map(Duration::toSeconds))
                .containsExactly(5L, 10L, 20L, 40L, 80L, 120L, 120L);
        assertThat(backOff.exhausted(Duration.ofHours(23))).isFalse();
        assertThat(backOff.exhausted(Duration.ofHours(24))).isTrue();
        // 155 s of five waits that double, then 719 of two minutes: 24 hours are over.
        assertThat(backOff.tries()).isEqualTo(1 + 5 + 719);
        assertThatThrownBy(() -> backOff.after(0)).hasMessageContaining("no wait before the first try");
    }
}
