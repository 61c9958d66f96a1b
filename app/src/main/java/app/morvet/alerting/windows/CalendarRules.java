package app.morvet.alerting.windows;

import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Spans;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.WorkCalendar;
import app.morvet.ground.estate.ScopeJson;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** By which rules the events of a calendar become windows, and how the rules are stored. */
public final class CalendarRules {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final int LONGEST = 100;

    private CalendarRules() {}

    /** What an event is to become. */
    public record Meaning(Scope scope, MaintenanceWindow.Effect effect, @Nullable Duration told) {
        /** @throws IllegalArgumentException where nothing would be held, or all there is */
        public Meaning {
            if (scope.equals(Scope.ALL))
                throw new IllegalArgumentException(
                        "say over what it is; what somebody else plans does not hold the whole estate");
            if (effect == MaintenanceWindow.Effect.NONE)
                throw new IllegalArgumentException("an event of a calendar holds call-outs, or pauses checks too");
        }

        public String words(UnaryOperator<String> names) {
            return effect.words() + " for " + scope.words(names)
                    + (told == null ? "" : "; its teams are told " + Spans.words(told) + " before");
        }
    }

    /** @param words that the title, text or place of an event must have, in any case of letters; empty for every event */
    public record Rule(String words, Meaning meaning) {
        /** @throws IllegalArgumentException where they are too long */
        public Rule {
            if (words.length() > LONGEST) throw new IllegalArgumentException("a rule looks for at most 100 letters");
        }

        boolean fits(WorkCalendar.Work work) {
            return work.words().toLowerCase(Locale.ROOT).contains(words.toLowerCase(Locale.ROOT));
        }
    }

    static List<Rule> read(String text) {
        var rules = new ArrayList<Rule>();
        if (text.isEmpty()) return rules;
        for (var node : JSON.readTree(text))
            rules.add(new Rule(
                    node.path("words").asString(),
                    new Meaning(
                            ScopeJson.read(node.path("over")),
                            MaintenanceWindow.Effect.valueOf(node.path("effect").asString()),
                            node.has("told")
                                    ? Duration.ofMinutes(node.path("told").asLong())
                                    : null)));
        return rules;
    }

    static String write(List<Rule> rules) {
        var all = JSON.createArrayNode();
        for (var rule : rules) {
            var node = all.addObject()
                    .put("words", rule.words())
                    .put("effect", rule.meaning().effect().name());
            node.set("over", JSON.readTree(ScopeJson.write(rule.meaning().scope())));
            if (rule.meaning().told() != null)
                node.put("told", rule.meaning().told().toMinutes());
        }
        return all.toString();
    }
}
