package app.morvet.rules.failures;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Expression;
import app.morvet.core.sorting.Condition;
import app.morvet.core.sorting.Criteria;
import app.morvet.core.sorting.FoldBy;
import app.morvet.core.sorting.FoldWindow;
import app.morvet.sources.sorting.StoredRule;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;

/** A sorting rule typed into its form, and what of it cannot be meant. */
class RuleFormTest extends MorvetTest {
    private static MultiValueMap<String, String> typed(String... fields) {
        var typed = new LinkedMultiValueMap<String, String>();
        typed.add("name", "No such harbour");
        typed.add("kind0", "contains");
        typed.add("value0", "unknown harbour");
        typed.add("foldFor", "4");
        typed.add("foldUnit", "h");
        for (int i = 0; i < fields.length; i += 2) typed.set(fields[i], fields[i + 1]);
        return typed;
    }

    private RuleForm.Read read(String... fields) {
        setUpOnce();
        return RuleForm.typed(typed(fields)).read(estate);
    }

    @Test
    void aRuleComesBackFromItsFormAsItWas() {
        var subject = subject();
        var rule = new StoredRule(
                7,
                "All that can be asked",
                new Criteria(
                        List.of(
                                new Condition.OnInterface(Set.of(subject.key())),
                                new Condition.AtStep("deliver"),
                                new Condition.ErrorContains("refused"),
                                Condition.ErrorMatches.of("code [0-9]+"),
                                new Condition.Attribute("node", "hub-1"),
                                Condition.XPathHolds.of("/manifest/ship"),
                                Condition.JsonPathHolds.of("$.ship")),
                        Expression.parse("a and (b or c) and not (d or e or f or g)")),
                Severity.CRITICAL,
                subject.team(),
                "Look at **the partner**.\nThen wait.",
                false,
                FoldBy.FAMILY,
                new FoldWindow(Duration.ofMinutes(90)),
                true,
                Set.of("host"),
                null,
                0,
                null);
        var form = RuleForm.of(rule, 3, 2, estate);
        assertThat(form.foldFor() + " " + form.foldUnit()).isEqualTo("90 min");
        var typed = new LinkedMultiValueMap<String, String>();
        typed.add("id", "7");
        typed.add("name", form.name());
        for (int i = 0; i < form.rows().size(); i++) {
            typed.add("kind" + i, form.rows().get(i).kind());
            typed.add("value" + i, form.rows().get(i).value());
            typed.add("second" + i, form.rows().get(i).second());
        }
        typed.add("joined", form.joined());
        typed.add("severity", form.severity());
        typed.add("owner", form.owner());
        typed.add("alerts", form.alerts() ? "alert" : "count");
        typed.add("fold", form.fold());
        typed.add("foldFor", form.foldFor());
        typed.add("foldUnit", form.foldUnit());
        typed.add("sendAgain", "yes");
        typed.add("explainedBy", "host");
        typed.add("fixNote", form.fixNote().replace("\n", "\r\n"));
        var read = RuleForm.typed(typed).read(estate);
        assertThat(read.errors()).isEmpty();
        assertThat(read.rule())
                .usingRecursiveComparison()
                .withEqualsForType((one, other) -> one.pattern().equals(other.pattern()), Pattern.class)
                .ignoringFieldsMatchingRegexes(".*compiled")
                .isEqualTo(rule);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    name      | ''        | name    | Give the rule a name
                    value0    | ' '       | row0    | The text is empty; say what to look for.
                    kind0     | ''        | row0    | Say at least one thing that a message must have
                    kind0     | smells    | row0    | Choose what the condition asks.
                    foldFor   | soon      | foldFor | A whole number, such as 4.
                    foldFor   | 0         | foldFor | From 1 min to 720 h.
                    foldFor   | 721       | foldFor | From 1 min to 720 h.
                    foldFor   | 9223372036854775807 | foldFor | From 1 min to 720 h.
                    joined    | a or b    | joined  | "a or b" names condition b, there are 1.
                    joined    | a or or   | joined  | The combination cannot be read: expected
                    """)
    void whatCannotBeMeantIsSaidAtItsField(String field, String value, String at, String words) {
        var read = read(field, value);
        assertThat(read.rule()).isNull();
        assertThat(read.errors()).containsOnlyKeys(at);
        assertThat(read.errors().get(at)).startsWith(words);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    matches   | (unclosed
                    xpath     | /manifest[
                    jsonpath  | $..[
                    interface | no-such-interface
                    attribute | ''
                    step      | ''
                    """)
    void aConditionThatCannotBeAskedIsSaidAtItsRow(String kind, String value) {
        var read = read("kind0", kind, "value0", value);
        assertThat(read.errors()).containsOnlyKeys("row0");
        assertThat(read.errors().get("row0")).isNotBlank().endsWith(".");
    }

    @Test
    void longTextsAreBounded() {
        assertThat(read("name", "x".repeat(101)).errors())
                .containsEntry("name", "At most 100 characters, these are 101.");
        assertThat(read("fixNote", "x".repeat(20_001)).errors())
                .containsEntry("fixNote", "At most 20,000 characters, these are 20001.");
        assertThat(read("value0", "x".repeat(501)).errors().get("row0")).contains("at most 500 characters, were 501");
    }

    @Test
    void whatIsLeftOutIsAsUsual() {
        var rule = read("severity", "no such", "fold", "no such").rule();
        assertThat(rule).isNotNull();
        assertThat(rule.severity()).isEqualTo(Severity.WARNING);
        assertThat(rule.foldBy()).isEqualTo(FoldBy.FAMILY);
        assertThat(rule.alerts()).isTrue();
        assertThat(rule.sendAgain()).isFalse();
        assertThat(rule.owner()).isNull();
    }

    @Test
    void theLastRuleMayTakeEverythingAndNoOtherMay() {
        assertThat(read("kind0", "", "last", "true").errors()).isEmpty();
        assertThat(read("kind0", "").errors()).containsKey("row0");
    }

    @Test
    void thereIsRoomForOneConditionMoreUpToTheMost() {
        assertThat(RuleForm.typed(typed()).rows()).hasSize(2);
        var full = typed();
        for (int i = 0; i < Criteria.MOST; i++) {
            full.set("kind" + i, "contains");
            full.set("value" + i, "text " + i);
        }
        assertThat(RuleForm.typed(full).rows()).hasSize(Criteria.MOST);
        assertThat(RuleForm.typed(full).read(estate).errors()).isEmpty();
    }
}
