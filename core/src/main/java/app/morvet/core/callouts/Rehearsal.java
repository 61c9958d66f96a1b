package app.morvet.core.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.function.Function;
import java.util.stream.IntStream;

/** Whom rules would have told of what happened to a case, by the engine that tells people: {@link Course}. */
public final class Rehearsal {
    /** So many looks one course takes at most; none that ends by itself takes as many. */
    private static final int MOST_LOOKS = 1_000;

    private Rehearsal() {}

    /** @param rule which of the rules, by its place. What a digest tells comes once for each case; the same at the same time is one message */
    public record Message(int rule, Course.Call call, Instant at) {}

    /**
     * @param messages in order of time
     * @param untold   instants at which a critical case opened and nobody would have heard of it
     */
    public record Told(List<Message> messages, List<Instant> untold) {}

    /** Who can be reached by a rule in a step at an instant. */
    public interface Reach {
        List<String> of(int rule, int step, Instant at);
    }

    /**
     * @param rules        in their order, the catch-all last
     * @param responseTime by severity, as it is for what the case is about
     * @param zone         by whose clock digests are told
     * @param until        what would be told after it is left out
     */
    public static Told of(
            List<CallOutRule> rules,
            CaseStory story,
            Collection<Scope.Facts> about,
            Function<Severity, Duration> responseTime,
            Reach reach,
            ZoneId zone,
            Instant until) {
        var messages = new ArrayList<Message>();
        var untold = new ArrayList<Instant>();
        var places = IntStream.range(0, rules.size()).boxed().toList();
        for (var one : story.happened(responseTime)) {
            var occasion = new CallOutRule.Occasion(one.what(), one.severity(), one.before(), about, one.at());
            boolean heard = false;
            for (int place : CallOutRule.taking(places, rules::get, occasion)) {
                int before = messages.size();
                var rule = rules.get(place);
                var digest = rule.digest();
                if (digest == null) run(place, rule, one.at(), story, reach, until, messages);
                else gather(place, rule, digest.next(one.at(), zone), reach, until, messages);
                // What is read in the morning is not heard of at night.
                heard |= digest == null && messages.size() > before;
            }
            boolean opens = one.what() == Happening.OPENED
                    && one.severity() == Severity.CRITICAL
                    && one.before() != Severity.CRITICAL;
            if (opens && !heard && Happening.OPENED.calls(story.at(one.at()))) untold.add(one.at());
        }
        messages.sort(java.util.Comparator.comparing(Message::at));
        return new Told(messages, untold);
    }

    private static void gather(
            int place, CallOutRule rule, Instant at, Reach reach, Instant until, List<Message> messages) {
        if (at.isAfter(until)) return;
        for (int step = 0; step < rule.steps().size(); step++)
            for (var who : reach.of(place, step, at))
                messages.add(new Message(place, new Course.Call(step, 0, who), at));
    }

    private static void run(
            int place,
            CallOutRule rule,
            Instant started,
            CaseStory story,
            Reach reach,
            Instant until,
            List<Message> messages) {
        var told = new ArrayList<Course.Told>();
        var now = started;
        for (int looks = 0; looks < MOST_LOOKS && !now.isAfter(until); looks++) {
            var at = now;
            // Once it was over, what comes back is another occasion.
            if (rule.when() != Happening.OVER && overSince(story, started, at)) return;
            var next = Course.next(rule, started, story.at(at), told, step -> reach.of(place, step, at), at);
            for (var call : next.calls()) {
                told.add(new Course.Told(call.step(), call.round(), call.who(), at, false));
                messages.add(new Message(place, call, at));
            }
            if (!next.calls().isEmpty()) continue;
            var look = next.look();
            if (look == null) {
                // Whoever has it may give it back.
                var changes = story.events().stream()
                        .map(CaseStory.Event::at)
                        .filter(it -> it.isAfter(at))
                        .findFirst();
                if (changes.isEmpty() || next.unheard()) return;
                look = changes.get();
            }
            now = look.isAfter(at) ? look : at.plusSeconds(1);
        }
    }

    private static boolean overSince(CaseStory story, Instant started, Instant now) {
        return story.events().stream()
                .anyMatch(one -> one.what() == CaseStory.What.OVER
                        && !one.at().isBefore(started)
                        && !one.at().isAfter(now));
    }
}
