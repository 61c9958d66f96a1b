package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** One thing that is expected of an answer. Each is read from the line that it is shown as. */
public sealed interface Expectation {
    int LONGEST = 500;

    Verdict of(Answer answer);

    /** As it stands in the sentence, and as {@link #read} reads it. */
    String words();

    /**
     * Reads what people write, one a line: {@code text "open"}, {@code no text "error"}, {@code text matches "queue \\d+"}, {@code $.status = "open"},
     * {@code $.queue <= 40}, {@code /menu/day matches "Mon.*"}, {@code $.version is there}.
     *
     * @throws IllegalArgumentException where a line is none of these; says which, and how it should be
     */
    static List<Expectation> read(String lines) {
        return lines.lines()
                .map(String::strip)
                .filter(line -> !line.isEmpty())
                .map(Expectation::line)
                .toList();
    }

    private static Expectation line(String line) {
        if (line.length() > LONGEST)
            throw new IllegalArgumentException("an expectation has at most %d characters".formatted(LONGEST));
        var text = Text.LINE.matcher(line);
        if (text.matches()) return new Text(unquoted(text.group(2)), text.group(1) == null);
        var match = Match.LINE.matcher(line);
        if (match.matches()) return Match.of(unquoted(match.group(2)), match.group(1) == null);
        var part = Part.LINE.matcher(line);
        if (part.matches())
            return Part.of(
                    part.group(1).strip(),
                    Part.Relation.of(part.group(2) != null ? part.group(2) : "is there"),
                    part.group(3) == null ? "" : part.group(3).strip());
        throw new IllegalArgumentException(
                "\"%s\" is no expectation; write it as text \"open\", no text \"error\", text matches \"queue .*\", $.status = \"open\", $.queue <= 40, /menu/day matches \"Mon.*\" or $.version is there"
                        .formatted(line));
    }

    private static String unquoted(String text) {
        return text.substring(1, text.length() - 1);
    }

    /**
     * The code of the answer.
     *
     * @param ranges such as {@code 200}, {@code 200-299, 304}
     */
    record Code(String ranges, List<int[]> accepted) implements Expectation {
        private static final Pattern RANGE = Pattern.compile("([1-5]\\d\\d)(?:\\s*-\\s*([1-5]\\d\\d))?");

        /** @throws IllegalArgumentException where they are no codes */
        public static Code of(String ranges) {
            return new Code(
                    ranges.strip(),
                    Stream.of(ranges.split(","))
                            .map(String::strip)
                            .map(one -> {
                                var range = RANGE.matcher(one);
                                if (!range.matches())
                                    throw new IllegalArgumentException(
                                            "\"" + one + "\" is no code of an answer; write 200, or 200-299, 304");
                                int low = Integer.parseInt(range.group(1));
                                return new int[] {low, range.group(2) == null ? low : Integer.parseInt(range.group(2))};
                            })
                            .toList());
        }

        @Override
        public Verdict of(Answer answer) {
            boolean met = accepted.stream().anyMatch(one -> answer.code() >= one[0] && answer.code() <= one[1]);
            return Verdict.of(words(), met, "it answered " + answer.code());
        }

        @Override
        public String words() {
            return ranges;
        }
    }

    /** The time that the whole answer takes. */
    record Within(Duration most) implements Expectation {
        public Within {
            if (most.compareTo(Duration.ofMillis(1)) < 0 || most.compareTo(Duration.ofSeconds(60)) > 0)
                throw new IllegalArgumentException("an answer comes within 1 ms to 60 s");
        }

        @Override
        public Verdict of(Answer answer) {
            return Verdict.of(
                    words(),
                    answer.took().compareTo(most) <= 0,
                    "it took " + answer.took().toMillis() + " ms");
        }

        @Override
        public String words() {
            return "within " + Limits.words(most);
        }
    }

    /** @param there whether it must stand in the answer, or must not */
    record Text(String text, boolean there) implements Expectation {
        private static final Pattern LINE = Pattern.compile("(no )?text (\".+\")");

        @Override
        public Verdict of(Answer answer) {
            return Verdict.of(
                    words(),
                    answer.body().contains(text) == there,
                    there ? "it does not stand there" : "it stands there");
        }

        @Override
        public String words() {
            return (there ? "text \"" : "no text \"") + text + "\"";
        }
    }

    /** @param found whether it must match somewhere in the answer, or must not */
    record Match(com.google.re2j.Pattern pattern, boolean found) implements Expectation {
        private static final Pattern LINE = Pattern.compile("(no )?text matches (\".+\")");

        static Match of(String pattern, boolean found) {
            return new Match(AnswerPath.pattern(pattern), found);
        }

        @Override
        public Verdict of(Answer answer) {
            return Verdict.of(
                    words(),
                    pattern.matcher(answer.body()).find() == found,
                    found ? "nothing matches" : "something matches");
        }

        @Override
        public String words() {
            return (found ? "text matches \"" : "no text matches \"") + pattern.pattern() + "\"";
        }
    }

    /**
     * What stands at a place of the answer.
     *
     * @param value as it was written; a text in quotes, or a number, true, false, null
     */
    record Part(String path, Relation relation, String value, AnswerPath reads) implements Expectation {
        private static final Pattern LINE =
                Pattern.compile("([$/].*?)\\s+(?:(=|!=|>=|<=|matches)\\s+(\\S.*)|is there)");

        /** How it is held against the value. */
        public enum Relation {
            IS("="),
            IS_NOT("!="),
            AT_LEAST(">="),
            AT_MOST("<="),
            MATCHES("matches"),
            IS_THERE("is there");

            private final String word;

            Relation(String word) {
                this.word = word;
            }

            static Relation of(String word) {
                for (var one : values()) if (one.word.equals(word)) return one;
                throw new IllegalArgumentException("\"" + word + "\" is no relation");
            }
        }

        static Part of(String path, Relation relation, String value) {
            boolean quoted = value.length() > 1 && value.startsWith("\"") && value.endsWith("\"");
            if (relation == Relation.AT_LEAST || relation == Relation.AT_MOST) number(value);
            else if (relation != Relation.IS_THERE && !quoted && !value.matches("true|false|null|-?\\d+(\\.\\d+)?"))
                throw new IllegalArgumentException(
                        "a value is a text in quotes, a number, true, false or null, was " + value);
            if (relation == Relation.MATCHES) AnswerPath.pattern(unquoted(value));
            return new Part(path, relation, value, AnswerPath.of(path));
        }

        private static double number(String text) {
            try {
                return Double.parseDouble(text);
            } catch (NumberFormatException none) {
                throw new IllegalArgumentException("\"" + text + "\" is not a number", none);
            }
        }

        @Override
        public Verdict of(Answer answer) {
            String found;
            try {
                found = reads.in(answer.body());
            } catch (IllegalArgumentException unreadable) {
                return Verdict.of(words(), false, String.valueOf(unreadable.getMessage()));
            }
            if (found == null) return Verdict.of(words(), false, "there is nothing at " + path);
            return Verdict.of(words(), holds(found), "it is " + shown(found));
        }

        private boolean holds(String found) {
            var wanted = value.startsWith("\"") ? unquoted(value) : value;
            return switch (relation) {
                case IS_THERE -> true;
                case IS -> same(found, wanted);
                case IS_NOT -> !same(found, wanted);
                case AT_LEAST -> asNumber(found) >= number(wanted);
                case AT_MOST -> asNumber(found) <= number(wanted);
                case MATCHES -> AnswerPath.pattern(wanted).matcher(found).matches();
            };
        }

        /** Numbers are the same however they are written. */
        private boolean same(String found, String wanted) {
            if (found.equals(wanted)) return true;
            double one = asNumber(found);
            return !value.startsWith("\"") && !Double.isNaN(one) && one == asNumber(wanted);
        }

        private static double asNumber(String text) {
            try {
                return Double.parseDouble(text.strip());
            } catch (NumberFormatException none) {
                return Double.NaN;
            }
        }

        private static String shown(String found) {
            var line = found.replaceAll("\\s+", " ");
            return "\"" + (line.length() > 80 ? line.substring(0, 80) + "…" : line) + "\"";
        }

        @Override
        public String words() {
            return relation == Relation.IS_THERE
                    ? path + " is there"
                    : path + " " + relation.word.toLowerCase(Locale.ROOT) + " " + value;
        }
    }
}
