package app.morvet.core.callouts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What is sent by a web call. */
class CallTemplateTest {
    private static final Set<String> KNOWN = Set.of("to", "text", "id");

    @Test
    void jsonIsFilledValueByValue() {
        var template = CallTemplate.parse("{\"line\": \"{{text}}\", \"to\": [\"{{to}}\"]}", KNOWN);
        assertThat(template.type()).isEqualTo("application/json");
        assertThat(template.fill(Map.of("text", "a \"quoted\" word\",\"x\":1", "to", "+358")))
                .isEqualTo("{\"line\":\"a \\\"quoted\\\" word\\\",\\\"x\\\":1\",\"to\":[\"+358\"]}");
    }

    @Test
    void aFormIsOneNameALine() {
        var template = CallTemplate.parse("number = {{to}}\n\nwords= {{text}} & more\n", KNOWN);
        assertThat(template.type()).isEqualTo("application/x-www-form-urlencoded");
        assertThat(template.fill(Map.of("to", "+358 00", "text", "a=b&c {{id}} $1")))
                .isEqualTo("number=%2B358+00&words=a%3Db%26c+%7B%7Bid%7D%7D+%241+%26+more");
    }

    @Test
    void whatIsWrongIsSaidWithItsPlace() {
        assertThatThrownBy(() -> CallTemplate.parse("to = {{to}}\nwho = {{crew}}", KNOWN))
                .hasMessage("line 2 of the template uses crew, which is not known; known are id, text, to");
        assertThatThrownBy(() -> CallTemplate.parse("just words", KNOWN))
                .hasMessageStartingWith("line 1 of the template");
        assertThatThrownBy(() -> CallTemplate.parse("{\"a\": \"{{crew}}\"}", KNOWN))
                .hasMessageContaining("crew");
        assertThatThrownBy(() -> CallTemplate.parse("  ", KNOWN)).hasMessageStartingWith("say what is sent");
        assertThatThrownBy(() -> CallTemplate.parse("{{text}}", KNOWN))
                .hasMessageStartingWith("line 1 of the template");
    }

    @Test
    void anIdCannotLeaveItsPlaceInAPath() {
        assertThat(CallTemplate.path("/items/{{id}}/close", Map.of("id", "../a b?x")))
                .isEqualTo("/items/..%2Fa%20b%3Fx/close");
        assertThat(CallTemplate.path("/items", Map.of())).isEqualTo("/items");
    }
}
