package app.morvet.sources.sorting;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.guard.Truth;
import app.morvet.core.sorting.Candidate;
import app.morvet.core.sorting.Condition;
import app.morvet.core.sorting.Faulty;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Conditions as they are stored and sent in files. */
class RuleJsonTest {
    private static Map<String, Object> rule(String kind, String text) {
        return Map.of("conditions", List.of(Map.of(kind, text)));
    }

    /** It was stored by a version that took it; the list of rules must not be lost for it. */
    @ParameterizedTest
    @CsvSource({"errorMatches, a(?=b)", "xpath, //b[.=../b]", "jsonpath, booking.key"})
    void whatIsNotTakenAnyMoreIsReadFromTheStoreAndTakesNothing(String kind, String text) {
        assertThatThrownBy(() -> RuleJson.criteria(rule(kind, text))).isInstanceOf(Faulty.class);
        var stored = RuleJson.stored(rule(kind, text));
        assertThat(stored.conditions()).singleElement().isInstanceOf(Condition.Refused.class);
        var message = new Candidate("bookings", "step", "ab", Map.of(), "", "");
        assertThat(stored.of(message)).isEqualTo(Truth.UNKNOWN);
        assertThat(stored.words(name -> name)).contains(text, "not taken any more");
        assertThat(RuleJson.plain(stored)).isEqualTo(rule(kind, text));
    }

    @Test
    void whatIsTakenIsReadAsItIs() {
        var stored = RuleJson.stored(rule("errorMatches", "timed out after \\d+"));
        assertThat(stored.conditions()).singleElement().isInstanceOf(Condition.ErrorMatches.class);
    }
}
