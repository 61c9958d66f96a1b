package app.morvet.core.checks;

import java.util.Map;
import java.util.TreeMap;

/**
 * What a check looks at, as it was written and what that means.
 *
 * @param fields the holes of the kind's sentence that are filled in
 */
public record Look(Kind kind, Map<String, String> fields, Target target) {
    public Look {
        fields = Map.copyOf(fields);
    }

    /** @throws IllegalArgumentException where it means nothing; says what is wrong */
    public static Look of(String kind, Map<String, String> fields) {
        var of = Kinds.byKey(kind);
        var read = of.read(fields);
        var target = read.target();
        if (target == null)
            throw new IllegalArgumentException(String.join("; ", read.errors().values()));
        return new Look(of, own(of, fields), target);
    }

    /** Those that this kind knows, and of a web call those of its further steps. */
    public static Map<String, String> own(Kind kind, Map<String, String> fields) {
        var own = new TreeMap<String, String>();
        fields.forEach((name, value) -> {
            boolean known = kind.fields().stream().anyMatch(one -> one.name().equals(name))
                    || kind == WebCall.KIND && WebCall.isOfAStep(name, fields);
            if (known && !value.isBlank()) own.put(name, value);
        });
        return own;
    }

    public String words() {
        return target.words();
    }
}
