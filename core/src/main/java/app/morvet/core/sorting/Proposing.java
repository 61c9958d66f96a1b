package app.morvet.core.sorting;

import app.morvet.core.guard.Truth;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** Conditions for a new rule, from what some messages have in common and others lack. */
public final class Proposing {
    private static final int SHORTEST = 8;
    private static final int LONGEST = 120;

    private Proposing() {}

    /**
     * Conditions that take all of the family and as few of the others as can be: a phrase of what stays of the error, then
     * whatever still parts it from others of the step, the interface and the attributes.
     *
     * @param skeleton what stays of the family's error, with ⟨marks⟩ where it varies
     * @param family   messages of it, at least one
     * @param others   messages of other families
     */
    public static Criteria from(String skeleton, List<Candidate> family, List<Candidate> others) {
        var chosen = new ArrayList<Condition>();
        var left = new ArrayList<>(others);
        for (var phrase : phrases(skeleton)) {
            var condition = new Condition.ErrorContains(phrase);
            if (!takesAll(condition, family)) continue;
            chosen.add(condition);
            left.removeIf(other -> condition.of(other) != Truth.TRUE);
            break;
        }
        for (var condition : common(family)) {
            if (chosen.size() > 0 && left.isEmpty()) break;
            int before = left.size();
            left.removeIf(other -> condition.of(other) != Truth.TRUE);
            if (left.size() < before || chosen.isEmpty()) chosen.add(condition);
        }
        return new Criteria(chosen, null);
    }

    private static boolean takesAll(Condition condition, List<Candidate> family) {
        return family.stream().allMatch(one -> condition.of(one) == Truth.TRUE);
    }

    /** What stays, in pieces, the longest first; those of the first line before the others. */
    private static List<String> phrases(String skeleton) {
        var phrases = new ArrayList<String>();
        for (var line : skeleton.lines().toList()) {
            java.util.Arrays.stream(line.split("⟨[^⟩]*⟩"))
                    .map(piece -> piece.strip().replaceAll("^[\\W_]+|[\\W_]+$", ""))
                    .filter(piece -> piece.length() >= SHORTEST)
                    .map(piece -> piece.length() > LONGEST ? piece.substring(0, LONGEST) : piece)
                    .sorted(Comparator.comparing(String::length).reversed())
                    .forEach(phrases::add);
        }
        return phrases;
    }

    /** What all of them share, beside the error. */
    private static List<Condition> common(List<Candidate> family) {
        var common = new ArrayList<Condition>();
        var steps = family.stream().map(Candidate::step).collect(Collectors.toSet());
        if (steps.size() == 1 && !steps.iterator().next().isBlank())
            common.add(new Condition.AtStep(steps.iterator().next()));
        var interfaces = family.stream()
                .map(Candidate::interfaceKey)
                .collect(Collectors.toCollection(LinkedHashSet<String>::new));
        if (interfaces.size() <= 3) common.add(new Condition.OnInterface(interfaces));
        if (family.size() < 2) return common;
        for (var entry : shared(family).entrySet())
            common.add(new Condition.Attribute(entry.getKey(), entry.getValue()));
        return common;
    }

    private static Map<String, String> shared(List<Candidate> family) {
        var values = new HashMap<String, Set<String>>();
        for (var one : family)
            one.attributes().forEach((name, value) -> values.computeIfAbsent(name, none -> new LinkedHashSet<>())
                    .add(value));
        var shared = new java.util.TreeMap<String, String>();
        values.forEach((name, some) -> {
            boolean everywhere =
                    family.stream().allMatch(one -> one.attributes().containsKey(name));
            var value = some.iterator().next();
            if (everywhere && some.size() == 1 && !value.isBlank() && value.length() <= Condition.LONGEST)
                shared.put(name, value);
        });
        return shared;
    }
}
