package app.morvet.work.callouts;

import app.morvet.alerting.windows.Windows;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.CaseStory;
import app.morvet.core.callouts.Rehearsal;
import app.morvet.core.cases.ResponseTime;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Service;

/** Whom rules would have told of what happened in the last 14 days: by the engine that tells people, with the rotas as they were. */
@Service
class RuleRehearsal {
    static final Duration SPAN = Duration.ofDays(14);
    private static final int MOST_CASES = 2_000;
    private static final Instant FAR = Instant.parse("9999-01-01T00:00:00Z");
    private static final LocalTime EVENING = LocalTime.of(22, 0);
    private static final LocalTime MORNING = LocalTime.of(6, 0);

    /** @param atNight of them between 22:00 and 06:00 */
    record Often(String name, int messages, int atNight) {}

    /** @param at when it opened as a critical one */
    record Untold(long id, String headline, Instant at) {}

    private record Message(int rule, String who, boolean atNight) {}

    /**
     * @param messages that would have been sent
     * @param names    of those who would have been told
     * @param untold   critical cases of which nobody would have heard, the latest first
     * @param cases    how many cases were gone through
     */
    record Result(List<Message> messages, Map<String, String> names, List<Untold> untold, int cases) {
        int by(int rule) {
            return (int) messages.stream().filter(one -> one.rule() == rule).count();
        }

        /** Who would have been told how often by a rule, or by all where it is less than 0; the most first. */
        List<Often> people(int rule) {
            var often = new HashMap<String, int[]>();
            for (var one : messages) {
                if (rule >= 0 && one.rule() != rule) continue;
                var count = often.computeIfAbsent(one.who(), it -> new int[2]);
                count[0]++;
                if (one.atNight()) count[1]++;
            }
            return often.entrySet().stream()
                    .map(one -> new Often(names.get(one.getKey()), one.getValue()[0], one.getValue()[1]))
                    .sorted(Comparator.comparingInt(Often::messages).reversed().thenComparing(Often::name))
                    .toList();
        }
    }

    private final CourseStore courses;
    private final CaseBook cases;
    private final Recipients recipients;
    private final Windows windows;
    private final Estate estate;
    private final Times times;

    RuleRehearsal(
            CourseStore courses, CaseBook cases, Recipients recipients, Windows windows, Estate estate, Times times) {
        this.courses = courses;
        this.cases = cases;
        this.recipients = recipients;
        this.windows = windows;
        this.estate = estate;
        this.times = times;
    }

    /** @param rules in their order */
    Result of(List<CallOutRule> rules) {
        var now = times.now();
        var since = now.minus(SPAN);
        var turns = courses.since(since, MOST_CASES);
        var known = cases.find(turns.keySet());
        cases.workOn(turns.keySet(), since).forEach(one -> {
            var event = event(one);
            if (event != null) turns.get(one.id()).add(event);
        });
        var people = recipients.now().withAllRotas();
        var names = new HashMap<String, String>();
        var messages = new ArrayList<Message>();
        var untold = new ArrayList<Untold>();
        // All that a digest tells somebody at one time is one message.
        var digests = new HashSet<String>();
        turns.forEach((id, events) -> {
            var one = known.get(id);
            if (one == null) return;
            var told = rehearsed(rules, one, new CaseStory(events), people, names, now);
            for (var it : told.messages()) {
                boolean another = rules.get(it.rule()).digest() == null
                        || digests.add(it.rule() + " " + it.call().who() + " " + it.at());
                if (another) messages.add(new Message(it.rule(), it.call().who(), atNight(it.at())));
            }
            told.untold().forEach(at -> untold.add(new Untold(id, one.headline(), at)));
        });
        untold.sort(Comparator.comparing(Untold::at).reversed());
        return new Result(messages, names, untold, turns.size());
    }

    private Rehearsal.Told rehearsed(
            List<CallOutRule> rules,
            WorkCase one,
            CaseStory story,
            Recipients.Now people,
            Map<String, String> names,
            Instant until) {
        var subject = estate.component(one.component());
        var owner = estate.ownerOf(subject).orElse(null);
        var tier = estate.tierOf(subject);
        var called = new Recipients.Called(tier, one.severity());
        return Rehearsal.of(
                rules,
                story,
                Set.of(windows.factsOf(subject)),
                severity -> ResponseTime.of(severity, tier),
                (rule, step, at) -> people.of(rules.get(rule).steps().get(step), owner, called, at).reached().stream()
                        .peek(it -> names.put(it.who(), it.name()))
                        .map(Recipients.Recipient::who)
                        .toList(),
                times.zone(),
                until);
    }

    private boolean atNight(Instant at) {
        var time = LocalTime.ofInstant(at, times.zone());
        return !time.isBefore(EVENING) || time.isBefore(MORNING);
    }

    private static CaseStory.@org.jspecify.annotations.Nullable Event event(CaseBook.Worked one) {
        return switch (one.kind()) {
            case "taken", "given", "opened", "reopened" -> CaseStory.Event.of(CaseStory.What.TAKEN, one.at());
            case "quiet" -> new CaseStory.Event(one.at(), CaseStory.What.QUIET, null, FAR);
            case "woke" -> new CaseStory.Event(one.at(), CaseStory.What.QUIET, null, null);
            case "handed off" -> CaseStory.Event.of(CaseStory.What.HANDED_OFF, one.at());
            case "returned" -> CaseStory.Event.of(CaseStory.What.RETURNED, one.at());
            case "undone" ->
                one.words().contains("took the case") ? CaseStory.Event.of(CaseStory.What.FREE, one.at()) : null;
            default -> null;
        };
    }
}
