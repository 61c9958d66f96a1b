package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import org.assertj.core.api.AbstractThrowableAssert;
import org.junit.jupiter.api.Test;
import org.yaml.snakeyaml.nodes.ScalarNode;

/** Files of ours in YAML, read as nodes. */
class YamlFileTest {
    private static AbstractThrowableAssert<?, ? extends Throwable> wrong(String text, int line) {
        return assertThatThrownBy(() -> {
                    for (var entry : YamlFile.entries(text, "ships", "ship", 3))
                        YamlFile.check(entry, List.of("name", "berths"));
                })
                .isInstanceOfSatisfying(
                        YamlFile.Wrong.class, wrong -> assertThat(wrong.fault().line())
                                .as(wrong.fault().words())
                                .isEqualTo(line));
    }

    @Test
    void entriesAreGivenInTheirOrderWithWhatStandsInThem() {
        var entries =
                YamlFile.entries("# fleet\nships:\n- name: Aurelia\n- name: Borea\n  berths: 40\n", "ships", "ship", 3);
        assertThat(entries).hasSize(2);
        assertThat(YamlFile.line(entries.getLast())).isEqualTo(4);
        assertThat(YamlFile.value(entries.getLast(), "berths"))
                .isInstanceOfSatisfying(
                        ScalarNode.class, node -> assertThat(node.getValue()).isEqualTo("40"));
        assertThat(YamlFile.value(entries.getFirst(), "berths")).isNull();
    }

    @Test
    void whatIsWrittenIsReadAgain() {
        var text = YamlFile.write(
                "ships", List.of(Map.of("name", "Aurelia: the first\n# no remark"), Map.of("name", "Borea")));
        assertThat(YamlFile.entries(text, "ships", "ship", 3).stream()
                        .map(entry -> ((ScalarNode) YamlFile.value(entry, "name")).getValue()))
                .containsExactly("Aurelia: the first\n# no remark", "Borea");
    }

    @Test
    void whatIsWrongSaysOnWhichLine() {
        wrong("", 1).hasMessage("The file begins with \"ships:\" and a list under it.");
        wrong("boats: []", 1).hasMessage("The file begins with \"ships:\" and a list under it.");
        wrong("ships:\n- Aurelia\n", 2).hasMessage("Each ship is a list of names and values.");
        wrong("ships:\n- name: A\n  colour: red\n", 3)
                .hasMessage("\"colour\" is not known here; known are name, berths.");
        wrong("ships:\n- name: A\n  name: B\n", 3).hasMessage("\"name\" stands twice here.");
        wrong("ships:\n- [1]: A\n", 2).hasMessageStartingWith("\"\" is not known here");
        wrong("ships:\n- name: \"A\n", 3).hasMessageStartingWith("This is not YAML: ");
        wrong("ships:\n" + "- name: A\n".repeat(4), 1).hasMessage("At most 3 ships in one file.");
    }

    /** One that stands for itself never ends; a few of a few of a few are millions. */
    @Test
    void whatRefersToSomethingElseIsRefusedWithItsLine() {
        wrong("ships:\n- &a\n  name: *a\n", 3).hasMessage("\"*a\" refers to something else; write out what is meant.");
        var layers = new StringBuilder("a0: &a0 [x, x, x, x, x, x]\n");
        for (int i = 1; i < 12; i++)
            layers.append("a%d: &a%d [%s]\n".formatted(i, i, ("*a" + (i - 1) + ", ").repeat(6)));
        wrong(layers + "ships: *a11\n", 2).hasMessageContaining("refers to something else");
    }

    @Test
    void sizeDepthAndReferencesAreBounded() {
        wrong("ships: " + "[".repeat(100), 1).hasMessageStartingWith("This is not YAML: ");
        wrong("ships:\n- name: " + "x".repeat(70_000) + "\n", 2)
                .hasMessage("This line has more than 65,536 characters; break it.");
        wrong("ships:\n" + "# steady\n".repeat(300_000), 1)
                .hasMessage("The file has more than 2,097,152 characters; cut it in parts.");
        assertThat(YamlFile.entries("ships:\n- name: \"" + "x".repeat(60_000) + "\"", "ships", "ship", 3))
                .hasSize(1);
    }
}
