package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Digest;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Hours;
import app.morvet.core.guard.Spans;
import app.morvet.ground.estate.ScopeForm;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A rule as it is typed: a sentence with holes, and a row for each step. */
final class CallOutRuleForm {
    /** In the place of whoever is told: a mail address that is typed beside it. */
    static final String ADDRESS = "address";

    private CallOutRuleForm() {}

    static Map<String, String> fields(CallOutRule rule) {
        var fields = new HashMap<>(ScopeForm.fields(rule.scope()));
        fields.put("name", rule.name());
        fields.put("when", rule.when().name());
        fields.put("severity", rule.from().name());
        var hours = rule.hours();
        fields.put("hours", hours == null ? "" : "some");
        fields.put("hoursFrom", hours == null ? "08:00" : hours.from().toString());
        fields.put("hoursTo", hours == null ? "16:00" : hours.to().toString());
        for (var day : DayOfWeek.values())
            fields.put("on" + day(day), hours == null || hours.days().contains(day) ? "yes" : "");
        for (int place = 0; place < CallOutRule.MOST_STEPS; place++) {
            var step = place < rule.steps().size() ? rule.steps().get(place) : null;
            fields.put("after" + place, step == null || step.after().isZero() ? "" : Spans.words(step.after()));
            fields.put("whom" + place, step == null ? "" : whom(step.whom()));
            fields.put("address" + place, step != null && step.whom() instanceof Whom.Address(String mail) ? mail : "");
            fields.put("ways" + place, step == null ? "" : ways(step.ways()));
        }
        var digest = rule.digest();
        fields.put("digest", digest == null ? "" : digest.every().name());
        fields.put("digestDay", digest == null ? "MONDAY" : digest.day().name());
        fields.put("digestAt", digest == null ? "07:00" : digest.at().toString());
        fields.put("again", Spans.wordsOrNone(rule.again()));
        fields.put("over", rule.over() ? "yes" : "");
        fields.put("goesOn", rule.goesOn() ? "yes" : "");
        return fields;
    }

    private static String whom(Whom whom) {
        return whom instanceof Whom.Address ? ADDRESS : whom.code();
    }

    static String ways(List<Way> ways) {
        return ways.stream().map(Way::name).collect(Collectors.joining(" "));
    }

    static String day(DayOfWeek day) {
        return day.name().substring(0, 1) + day.name().substring(1, 3).toLowerCase(Locale.ROOT);
    }

    /**
     * @param zone in which hours are meant
     * @throws IllegalArgumentException saying what cannot be, and in which step
     */
    static CallOutRule read(Map<String, String> sent, ZoneId zone) {
        var steps = new ArrayList<Step>();
        for (int place = 0; place < CallOutRule.MOST_STEPS; place++) {
            if (given(sent, "whom" + place).isEmpty()) continue;
            try {
                steps.add(step(sent, place));
            } catch (IllegalArgumentException bad) {
                throw new IllegalArgumentException("step %d: %s".formatted(place + 1, bad.getMessage()), bad);
            }
        }
        var when = when(sent);
        var again = isDigest(sent) || !when.isOfCase() ? "" : given(sent, "again");
        return new CallOutRule(
                given(sent, "name"),
                when,
                one(Severity.values(), given(sent, "severity"), "say how bad it is at least"),
                when.about() == Happening.About.ALL ? Scope.ALL : ScopeForm.read(sent::get),
                given(sent, "hours").isEmpty() ? null : hours(sent, zone),
                steps,
                again.isEmpty() ? null : Spans.read(again),
                when.isOfCase() && given(sent, "over").equals("yes"),
                given(sent, "goesOn").equals("yes"),
                isDigest(sent) && when.isOfCase() ? digest(sent) : null);
    }

    private static Happening when(Map<String, String> sent) {
        return one(Happening.values(), given(sent, "when"), "say what happens");
    }

    private static boolean isDigest(Map<String, String> sent) {
        return !given(sent, "digest").isEmpty();
    }

    private static Digest digest(Map<String, String> sent) {
        var every = one(Digest.Every.values(), given(sent, "digest"), "say how often it is told");
        if (every == Digest.Every.HOUR) return Digest.hourly();
        var day = every == Digest.Every.WEEK
                ? one(DayOfWeek.values(), given(sent, "digestDay"), "choose the day of the digest")
                : DayOfWeek.MONDAY;
        return new Digest(every, day, clock(given(sent, "digestAt")));
    }

    private static Step step(Map<String, String> sent, int place) {
        var code = given(sent, "whom" + place);
        if (code.equals(ADDRESS) && given(sent, "address" + place).isEmpty())
            throw new IllegalArgumentException("type the mail address");
        var whom = code.equals(ADDRESS) ? new Whom.Address(given(sent, "address" + place)) : Whom.read(code);
        // A digest tells all at its time, and so does what is no case; what stands in the fields that they have no use
        // for is left.
        var after = isDigest(sent) || !when(sent).isOfCase() ? "" : given(sent, "after" + place);
        var ways = new ArrayList<Way>();
        if (!whom.hasOwnWay())
            for (var way : given(sent, "ways" + place).split(" "))
                if (!way.isEmpty()) ways.add(one(Way.values(), way, "say by which way they are told"));
        // A team and an address have a mail and nothing else.
        var possible = whom instanceof Whom.Team || whom instanceof Whom.Address ? List.of(Way.MAIL) : ways;
        return new Step(after.isEmpty() ? Duration.ZERO : Spans.read(after), whom, possible);
    }

    private static Hours hours(Map<String, String> sent, ZoneId zone) {
        var days = EnumSet.noneOf(DayOfWeek.class);
        for (var day : DayOfWeek.values()) if (given(sent, "on" + day(day)).equals("yes")) days.add(day);
        if (days.isEmpty()) throw new IllegalArgumentException("choose at least one day on which the rule holds");
        return new Hours(days, clock(given(sent, "hoursFrom")), clock(given(sent, "hoursTo")), zone);
    }

    private static LocalTime clock(String typed) {
        try {
            return LocalTime.parse(typed);
        } catch (DateTimeException bad) {
            throw new IllegalArgumentException("\"" + typed + "\" is not a time of day; write it such as 06:30", bad);
        }
    }

    private static <E extends Enum<E>> E one(E[] all, String name, String otherwise) {
        return Arrays.stream(all)
                .filter(it -> it.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException(otherwise));
    }

    private static String given(Map<String, String> sent, String name) {
        @Nullable String typed = sent.get(name);
        return typed == null ? "" : typed.strip();
    }
}
