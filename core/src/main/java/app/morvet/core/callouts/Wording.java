package app.morvet.core.callouts;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * What people are told of a case, as somebody words it: Markdown with variables such as {@code {case.headline}}. A paragraph in which
 * variables stand that are all empty is left out, so that nothing is announced which is not there.
 *
 * @param text the words with their variables
 */
public record Wording(String text) {
    /** What can stand in it, with what it is. */
    public static final Map<String, String> VARIABLES = variables();

    private static final int LONGEST = 8000;
    private static final Pattern VARIABLE = Pattern.compile("\\{([^{}\\n]*)}");

    private static Map<String, String> variables() {
        var all = new LinkedHashMap<String, String>();
        all.put("told.as", "why it is told, for a subject: Critical, Not taken in time, Returned, Over …");
        all.put("told.why", "the same in a sentence, with whose it is");
        all.put("case.headline", "what is wrong, in its own words");
        all.put("case.number", "its number");
        all.put("case.severity", "notice, warning or critical");
        all.put("case.link", "the address of its page");
        all.put("case.component", "name of what is in trouble");
        all.put("case.application", "name of its application");
        all.put("case.tier", "tier of that, 1 to 4");
        all.put("case.team", "who owns it");
        all.put("case.facts", "all its facts, one a line");
        all.put("case.count", "how many messages failed");
        all.put("case.value", "the value now and at worst");
        all.put("case.limits", "the limits of what raised it");
        all.put("case.first", "when it was first seen");
        all.put("case.last", "when it was last seen");
        all.put("case.explains", "what is in trouble because of it");
        all.put("case.fix", "the fix note of what raised it");
        all.put("case.sample", "the error of a message that failed");
        all.put("case.changed", "what changed in the hours before, on it and on what it needs");
        all.put("case.output", "what the job that failed wrote; over 64 KiB it is attached");
        all.put("case.curve", "its curve, as a picture in HTML");
        all.put("zone", "the zone of the times");
        return Collections.unmodifiableMap(all);
    }

    /** What cannot be used, with where it stands. */
    public static final class Wrong extends IllegalArgumentException {
        private static final long serialVersionUID = 1;

        Wrong(String text, int place, String what) {
            super("Line %d, place %d: %s".formatted(line(text, place), place - lineBegin(text, place) + 1, what));
        }

        private static int line(String text, int place) {
            return (int) text.substring(0, place).chars().filter(c -> c == '\n').count() + 1;
        }

        private static int lineBegin(String text, int place) {
            return text.lastIndexOf('\n', place - 1) + 1;
        }
    }

    /** @throws Wrong where it names a variable that there is not, or a brace is open; says which, and where */
    public Wording {
        text = text.replace("\r\n", "\n");
        if (text.length() > LONGEST)
            throw new Wrong(text, LONGEST, "it is longer than %,d characters.".formatted(LONGEST));
        for (var one : VARIABLE.matcher(text).results().toList())
            if (!VARIABLES.containsKey(one.group(1)))
                throw new Wrong(
                        text,
                        one.start(),
                        "there is no {%s}. There are: %s."
                                .formatted(
                                        one.group(1),
                                        VARIABLES.keySet().stream()
                                                .map(it -> "{" + it + "}")
                                                .collect(Collectors.joining(", "))));
        var plain = VARIABLE.matcher(text)
                .replaceAll((MatchResult one) -> "x".repeat(one.group().length()));
        for (int i = 0; i < plain.length(); i++)
            if (plain.charAt(i) == '{' || plain.charAt(i) == '}')
                throw new Wrong(text, i, "a brace is open; a variable is written as {case.headline}.");
    }

    /** The variables that stand in it, each once. */
    public List<String> uses() {
        return named(text).distinct().toList();
    }

    private static Stream<String> named(String part) {
        return VARIABLE.matcher(part).results().map(one -> one.group(1));
    }

    /**
     * With its variables filled in. What is filled in is not read again, whatever stands in it.
     *
     * @param values of a variable; empty where there is nothing to say
     */
    public String filled(Function<String, String> values) {
        var known = new LinkedHashMap<String, String>();
        uses().forEach(name -> known.put(name, values.apply(name)));
        var paragraphs = new ArrayList<String>();
        for (var part : text.strip().split("\n[ \t]*\n\\s*")) {
            var names = named(part).toList();
            if (!names.isEmpty()
                    && names.stream().allMatch(name -> value(known, name).isBlank())) continue;
            paragraphs.add(Arrays.stream(part.split("\n", -1))
                    .filter(line -> !isEmptied(line, known))
                    .map(line -> VARIABLE.matcher(line)
                            .replaceAll((MatchResult one) -> Matcher.quoteReplacement(value(known, one.group(1)))))
                    .collect(Collectors.joining("\n")));
        }
        return String.join("\n\n", paragraphs);
    }

    /** A line in which nothing but variables stands, and those are empty. */
    private static boolean isEmptied(String line, Map<String, String> known) {
        return named(line).findAny().isPresent()
                && VARIABLE.matcher(line).replaceAll("").isBlank()
                && named(line).allMatch(name -> value(known, name).isBlank());
    }

    private static String value(Map<String, String> known, String name) {
        return Objects.requireNonNull(known.get(name));
    }
}
