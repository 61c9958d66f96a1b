package app.morvet.core.checks;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A kind of check: a sentence with holes, and what it means once they are filled in.
 *
 * @param key         as it is stored and written in files
 * @param name        as people read it
 * @param onHost      whether it can be asked on a host only, by an outpost there
 * @param sentence    what is read, with each hole as {@code {name}}
 * @param fields      the holes, and what stands below the sentence
 * @param reads       what they mean
 */
public record Kind(
        String key, String name, boolean onHost, String sentence, List<Field> fields, Function<Fields, Target> reads) {
    private static final Pattern HOLE = Pattern.compile("\\{([a-zA-Z]+)}");

    /**
     * One hole.
     *
     * @param size   how much is written into it: {@code short}, {@code wide} or {@code lines}; {@code choice} of some
     * @param plain  what stands in it at first
     * @param hint   what may be written
     */
    public record Field(String name, String label, String size, String plain, String hint, List<String> choices) {
        static Field of(String name, String label, String size, String plain, String hint) {
            return new Field(name, label, size, plain, hint, List.of());
        }

        static Field choice(String name, String label, String... choices) {
            return new Field(name, label, "choice", choices[0], "", List.of(choices));
        }
    }

    /**
     * A piece of the sentence.
     *
     * @param text  before the hole
     * @param field null behind the last one
     */
    public record Piece(String text, @Nullable Field field) {}

    /**
     * What was filled in, and what it means.
     *
     * @param target null while it means nothing; the errors say why
     * @param errors by field
     */
    public record Read(@Nullable Target target, Map<String, String> errors) {}

    public Read read(Map<String, String> typed) {
        var whole = new LinkedHashMap<String, String>();
        fields.forEach(one -> whole.put(one.name(), one.plain()));
        whole.putAll(typed);
        var read = new Fields(whole);
        try {
            var target = reads.apply(read);
            return new Read(read.errors().isEmpty() ? target : null, read.errors());
        } catch (IllegalArgumentException wrong) {
            read.wrong(fields.getFirst().name(), wrong);
            return new Read(null, read.errors());
        }
    }

    /** The sentence in its pieces, for a form. */
    public List<Piece> pieces() {
        var pieces = new ArrayList<Piece>();
        var hole = HOLE.matcher(sentence);
        int at = 0;
        while (hole.find()) {
            pieces.add(new Piece(sentence.substring(at, hole.start()), field(hole.group(1))));
            at = hole.end();
        }
        if (at < sentence.length()) pieces.add(new Piece(sentence.substring(at), null));
        return pieces;
    }

    /** What stands below the sentence. */
    public List<Field> below() {
        return fields.stream()
                .filter(one -> !sentence.contains("{" + one.name() + "}"))
                .toList();
    }

    private Field field(String name) {
        return fields.stream()
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalStateException("no hole " + name));
    }
}
