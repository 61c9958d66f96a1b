package app.morvet.ground.base;

import java.io.StringReader;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.yaml.snakeyaml.DumperOptions;
import org.yaml.snakeyaml.LoaderOptions;
import org.yaml.snakeyaml.Yaml;
import org.yaml.snakeyaml.constructor.SafeConstructor;
import org.yaml.snakeyaml.error.MarkedYAMLException;
import org.yaml.snakeyaml.error.YAMLException;
import org.yaml.snakeyaml.events.AliasEvent;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.ScalarNode;
import org.yaml.snakeyaml.nodes.SequenceNode;
import org.yaml.snakeyaml.representer.Representer;

/**
 * Files of ours in YAML: one list under one name. They are read as nodes, so that what is wrong is told by its line; no
 * object is ever made of a tag, and size, depth and references are bounded.
 */
public final class YamlFile {
    private static final int LARGEST = 2 * 1024 * 1024;

    /** It may be one word, and a word is read in a time that grows with the square of its length. */
    private static final int LONGEST_LINE = 64 * 1024;

    private static final int DEEPEST = 20;

    private YamlFile() {}

    /** @param line from 1 */
    public record Fault(int line, String words) {}

    /** @param before the sentence in force, or null for a new one */
    public record Change(int line, String name, @Nullable String before, String after) {}

    /** What a file of named things would do. */
    public record Read(List<Change> changes, int same, List<Fault> faults) {}

    /** What is wrong in a file, and where. */
    public static final class Wrong extends RuntimeException {
        private static final long serialVersionUID = 1;
        private final int line;

        /** @param line from 1 */
        public Wrong(int line, String words) {
            super(words);
            this.line = line;
        }

        public Wrong(Node at, String words) {
            this(YamlFile.line(at), words);
        }

        public Fault fault() {
            return new Fault(line, String.valueOf(getMessage()));
        }
    }

    /**
     * The entries of a file.
     *
     * @param name under which the list stands
     * @param what one entry is, in a word
     * @throws Wrong where it is no such file
     */
    public static List<MappingNode> entries(String text, String name, String what, int most) {
        var root = root(text);
        if (!(root instanceof MappingNode mapping) || !(value(mapping, name) instanceof SequenceNode list))
            throw new Wrong(1, "The file begins with \"%s:\" and a list under it.".formatted(name));
        if (list.getValue().size() > most) throw new Wrong(1, "At most %,d %ss in one file.".formatted(most, what));
        var found = new ArrayList<MappingNode>();
        for (var one : list.getValue()) {
            if (!(one instanceof MappingNode entry))
                throw new Wrong(one, "Each %s is a list of names and values.".formatted(what));
            found.add(entry);
        }
        return found;
    }

    private static void bounded(String text) {
        if (text.length() > LARGEST)
            throw new Wrong(1, "The file has more than %,d characters; cut it in parts.".formatted(LARGEST));
        int line = 1;
        for (int from = 0, end; from <= text.length(); from = end + 1, line++) {
            end = text.indexOf('\n', from);
            if (end < 0) end = text.length();
            if (end - from > LONGEST_LINE)
                throw new Wrong(line, "This line has more than %,d characters; break it.".formatted(LONGEST_LINE));
        }
    }

    private static @Nullable Node root(String text) {
        bounded(text);
        var options = new LoaderOptions();
        options.setNestingDepthLimit(DEEPEST);
        try {
            var yaml = new Yaml(new SafeConstructor(options));
            // A reference may stand for itself, or for so much that it cannot be read to its end.
            for (var event : yaml.parse(new StringReader(text)))
                if (event instanceof AliasEvent reference)
                    throw new Wrong(
                            reference.getStartMark().getLine() + 1,
                            "\"*%s\" refers to something else; write out what is meant."
                                    .formatted(reference.getAnchor()));
            return yaml.compose(new StringReader(text));
        } catch (MarkedYAMLException broken) {
            var mark = broken.getProblemMark();
            throw new Wrong(mark == null ? 1 : mark.getLine() + 1, "This is not YAML: " + broken.getProblem());
        } catch (YAMLException broken) {
            throw new Wrong(1, "This is not YAML: " + broken.getMessage());
        }
    }

    /** @param line from 1 */
    public static int line(Node node) {
        return node.getStartMark().getLine() + 1;
    }

    /** What stands under a name; null where nothing does. */
    public static @Nullable Node value(MappingNode mapping, String name) {
        for (var pair : mapping.getValue()) if (name(pair.getKeyNode()).equals(name)) return pair.getValueNode();
        return null;
    }

    /** Where to say what is wrong under a name: what stands there, or the whole where nothing does. */
    public static Node at(MappingNode mapping, String name) {
        var value = value(mapping, name);
        return value == null ? mapping : value;
    }

    /**
     * The text under a name, stripped.
     *
     * @param otherwise what it is where nothing stands there
     * @throws Wrong where a list or names and values stand there
     */
    public static String text(MappingNode mapping, String name, String otherwise) {
        var value = value(mapping, name);
        if (value == null) return otherwise;
        if (value instanceof ScalarNode scalar) return scalar.getValue().strip();
        throw new Wrong(value, "\"%s\" is a text.".formatted(name));
    }

    /**
     * @throws Wrong where a name is not one of those known, or stands twice
     */
    public static void check(MappingNode mapping, List<String> known) {
        var seen = new HashSet<String>();
        for (var pair : mapping.getValue()) {
            var name = name(pair.getKeyNode());
            if (!known.contains(name))
                throw new Wrong(
                        pair.getKeyNode(),
                        "\"%s\" is not known here; known are %s.".formatted(name, String.join(", ", known)));
            if (!seen.add(name)) throw new Wrong(pair.getKeyNode(), "\"%s\" stands twice here.".formatted(name));
        }
    }

    private static String name(Node node) {
        return node instanceof ScalarNode scalar ? scalar.getValue() : "";
    }

    /** A list under its name, as a person would write it. */
    public static String write(String name, List<? extends Map<String, ?>> list) {
        var options = new DumperOptions();
        options.setDefaultFlowStyle(DumperOptions.FlowStyle.BLOCK);
        options.setIndicatorIndent(2);
        options.setIndentWithIndicator(true);
        options.setSplitLines(false);
        return new Yaml(new SafeConstructor(new LoaderOptions()), new Representer(options), options)
                .dump(Map.of(name, list));
    }
}
