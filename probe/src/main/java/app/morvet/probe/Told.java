package app.morvet.probe;

import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What came of a check as names and values, for whoever writes them as JSON: written and read here, so that both mean the same. */
public final class Told {
    private static final int LONGEST_SAID = 1024 * 1024;
    private static final int MOST_FIGURES = 200;

    private Told() {}

    public static Map<String, Object> of(Result result) {
        var told = new LinkedHashMap<String, Object>();
        told.put("state", result.state());
        told.put("tookMillis", result.took().toMillis());
        told.put("said", result.said());
        told.put(
                "verdicts",
                result.verdicts().stream()
                        .map(one -> Map.of("expected", one.expected(), "met", one.met(), "found", one.found()))
                        .toList());
        told.put(
                "figures",
                result.figures().stream()
                        .map(one -> Map.of(
                                "measure", one.measure(),
                                "sort", one.sort().name(),
                                "unit", one.unit(),
                                "labels", one.labels(),
                                "value", one.value(),
                                "words", one.words()))
                        .toList());
        told.put("facts", result.facts());
        return told;
    }

    /**
     * Reads what was told; what a run leaves behind for the next stays where it ran.
     *
     * @throws IllegalArgumentException where it is none; says why
     */
    public static Result read(Map<?, ?> told) {
        var state = text(told, "state");
        if (!Result.WORDS.contains(state))
            throw new IllegalArgumentException("a result is one of " + String.join(", ", Result.WORDS));
        var verdicts = new ArrayList<Verdict>();
        for (var one : maps(told.get("verdicts")))
            verdicts.add(Verdict.of(text(one, "expected"), Boolean.TRUE.equals(one.get("met")), text(one, "found")));
        var figures = new ArrayList<Result.Figure>();
        for (var one : maps(told.get("figures"))) if (figures.size() < MOST_FIGURES) figures.add(figure(one));
        var said = text(told, "said");
        long millis = told.get("tookMillis") instanceof Number number ? number.longValue() : 0;
        return new Result(
                state,
                Duration.ofMillis(Math.max(0, millis)),
                verdicts,
                said.length() > LONGEST_SAID ? said.substring(0, LONGEST_SAID) : said,
                figures,
                texts(told.get("facts")),
                "");
    }

    private static Result.Figure figure(Map<?, ?> one) {
        var measure = text(one, "measure");
        if (!measure.matches("[a-z_]{1,60}") || measure.equals(Result.MEASURE))
            throw new IllegalArgumentException("\"" + measure + "\" is nothing that a check measures");
        var words = one.get("words") instanceof List<?> list
                ? list.stream()
                        .filter(String.class::isInstance)
                        .map(String.class::cast)
                        .toList()
                : List.<String>of();
        double value = one.get("value") instanceof Number number ? number.doubleValue() : Double.NaN;
        if (!Double.isFinite(value) || !words.isEmpty() && (value < 0 || value >= words.size()))
            throw new IllegalArgumentException("the value of " + measure + " is none");
        return new Result.Figure(
                measure, sort(text(one, "sort")), text(one, "unit"), texts(one.get("labels")), value, words);
    }

    private static Sort sort(String name) {
        for (var sort : Sort.values()) if (sort.name().equals(name)) return sort;
        throw new IllegalArgumentException("\"" + name + "\" is no sort of a measure");
    }

    private static String text(Map<?, ?> map, String name) {
        return map.get(name) instanceof String text ? text : "";
    }

    private static List<Map<?, ?>> maps(@Nullable Object list) {
        var maps = new ArrayList<Map<?, ?>>();
        if (list instanceof List<?> all) for (var one : all) if (one instanceof Map<?, ?> map) maps.add(map);
        return maps;
    }

    private static Map<String, String> texts(@Nullable Object object) {
        var texts = new HashMap<String, String>();
        if (object instanceof Map<?, ?> map)
            map.forEach((name, value) -> {
                if (name instanceof String key && value instanceof String text) texts.put(key, text);
            });
        return texts;
    }
}
