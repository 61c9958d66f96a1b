package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.regex.Pattern;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/** Numbers as OpenMetrics writes them, held against the grammar of the standard. */
class MetricLineProperties {
    /** {@code realnumber} of OpenMetrics 1.0, and the names of what is not finite. */
    private static final Pattern GRAMMAR = Pattern.compile(
            "[+-]?(?:[0-9]+|[0-9]+\\.[0-9]*|\\.[0-9]+)(?:[eE][+-]?[0-9]+)?|(?i:[+-]?(?:inf|infinity)|nan)");

    @Provide
    Arbitrary<String> words() {
        var parts = Arbitraries.of("+", "-", ".", "e", "E", "0", "1", "27", "9", "inf", "NaN", "x", "٣", " ");
        return parts.list().ofMaxSize(7).map(all -> String.join("", all));
    }

    @Property(tries = 1000)
    void whatTheGrammarTakesIsANumberAndNothingElse(@ForAll("words") String text) {
        if (!GRAMMAR.matcher(text).matches()) {
            assertThatThrownBy(() -> MetricLine.number(text))
                    .isInstanceOf(IllegalArgumentException.class)
                    .hasMessageContaining("is not a number");
            return;
        }
        double number = MetricLine.number(text);
        if (Character.isDigit(text.charAt(text.length() - 1)) || text.endsWith("."))
            assertThat(number).isEqualTo(Double.parseDouble(text));
        else assertThat(number).isNotFinite();
    }
}
