package app.morvet.core.changes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.AlphaChars;
import net.jqwik.api.constraints.Size;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ChangeTest {
    private static final Instant AT = Instant.parse("2027-03-18T01:52:00Z");

    private static Change change(String what, String name, String before, String after) {
        return new Change(AT, what, name, before, after, "", "");
    }

    @Test
    void itSaysWhatItWasAndWhatItIs() {
        assertThat(change("version", "gate firmware", "4.1", "4.2").words())
                .isEqualTo("version of gate firmware: 4.1 → 4.2");
        assertThat(change("start mode", "", "by hand", "at boot").words()).isEqualTo("start mode: by hand → at boot");
        assertThat(change("file", "seats.lic", "", "150 seats").words())
                .isEqualTo("file seats.lic: 150 seats, which is new");
        assertThat(change("setting", "proxy", "on", "").words()).isEqualTo("setting proxy: on is gone");
        assertThat(change("file", "x", "a\nb", "c".repeat(200)).words())
                .isEqualTo("file x: a… → " + "c".repeat(80) + "…");
    }

    @Test
    void whatIsNoChangeIsRefusedWithWhatIsWrong() {
        assertThatThrownBy(() -> change(" ", "", "a", "b")).hasMessageContaining("what is missing");
        assertThatThrownBy(() -> change("version", "", "", "")).hasMessageContaining("before and after are missing");
        assertThatThrownBy(() -> change("version", "", "1", "1")).hasMessageContaining("are the same");
        assertThatThrownBy(() -> change("version", "", "", "x".repeat(2001)))
                .hasMessage("after is too long: at most 2,000 characters, were 2,001");
    }

    /** What was before, with the changes made to it, is what is now. */
    @Property
    void changesOfInfosLeadFromOneToTheOther(
            @ForAll @Size(max = 5)
                    Map<@AlphaChars @StringLength(min = 1, max = 2) String, @StringLength(min = 1, max = 3) String>
                            before,
            @ForAll @Size(max = 5)
                    Map<@AlphaChars @StringLength(min = 1, max = 2) String, @StringLength(min = 1, max = 3) String>
                            after) {
        var made = new HashMap<>(before);
        for (var change : Infos.changes("build", before, after, AT)) {
            var label = change.name().replaceFirst("^build ?", "");
            assertThat(made.getOrDefault(label, "")).isEqualTo(change.before());
            if (change.after().isEmpty()) made.remove(label);
            else made.put(label, change.after());
        }
        assertThat(made).isEqualTo(after);
    }

    @Test
    void aLabelThatIsCalledVersionIsOne() {
        assertThat(Infos.changes(
                        "build", Map.of("version", "1", "commit", "a"), Map.of("version", "2", "commit", "a"), AT))
                .singleElement()
                .extracting(Change::words)
                .isEqualTo("version of build: 1 → 2");
    }

    @ParameterizedTest
    @CsvSource({
        "a,         none",
        "a a a,     none",
        "a a b,     2",
        "a b,       0 1",
        "a a b b,   0 1 2 3",
        "a b c a,   1 2",
        "'',        none",
    })
    void whatDiffersFromMostOfItsLike(String versions, String expected) {
        var byPlace = new HashMap<Integer, String>();
        for (var one : versions.split(" ")) if (!one.isEmpty()) byPlace.put(byPlace.size(), one);
        var differing = Infos.differing(byPlace).entrySet().stream()
                .filter(Map.Entry::getValue)
                .map(one -> "" + one.getKey())
                .sorted()
                .toList();
        assertThat(differing.isEmpty() ? "none" : String.join(" ", differing)).isEqualTo(expected);
        assertThat(Infos.differing(byPlace)).hasSameSizeAs(byPlace);
    }
}
