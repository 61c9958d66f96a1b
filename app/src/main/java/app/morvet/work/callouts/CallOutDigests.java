package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.Happening;
import app.morvet.ground.access.People;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.WorkCase;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What rules gather and tell in one message at certain times; nothing where nothing happened. */
@Component
class CallOutDigests implements Errand {
    static final String NAME = "call-out-digest";
    /** So many are named in one message; the others are counted. */
    private static final int NAMED = 50;

    /** Something that was gathered. */
    record Item(long caseId, Happening happened, Severity severity, Instant at) {}

    private final DigestStore store;
    private final CallOutRules rules;
    private final Recipients recipients;
    private final CaseBook cases;
    private final CaseOwners owners;
    private final CaseTellings tellings;
    private final Estate estate;
    private final People people;
    private final Mails mails;
    private final Errands errands;
    private final MorvetSettings settings;
    private final Times times;

    CallOutDigests(
            DigestStore store,
            CallOutRules rules,
            Recipients recipients,
            CaseBook cases,
            CaseOwners owners,
            CaseTellings tellings,
            Estate estate,
            People people,
            Mails mails,
            Errands errands,
            MorvetSettings settings,
            Times times) {
        this.store = store;
        this.rules = rules;
        this.recipients = recipients;
        this.cases = cases;
        this.owners = owners;
        this.tellings = tellings;
        this.estate = estate;
        this.people = people;
        this.mails = mails;
        this.errands = errands;
        this.settings = settings;
        this.times = times;
    }

    /** Keeps something until the digest of a rule is told, in the transaction in which it happened. */
    void gather(CallOutRules.Stored rule, WorkCase one, Happening what, Severity severity, Instant at) {
        var digest = rule.rule().digest();
        if (digest == null) throw new IllegalArgumentException("the rule tells at once");
        store.add(rule.id(), new Item(one.id(), what, severity, at));
        errands.unlessWaiting(digest.next(at, times.zone()), NAME, "" + rule.id());
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    @Transactional
    public Optional<Instant> run(String id) {
        return run(id, times.now());
    }

    /**
     * Tells what was gathered until an instant, each when they wish to hear of it and their team may be called. What comes meanwhile is of
     * the next.
     */
    Optional<Instant> run(String id, Instant now) {
        var rule = rules.byId(Long.parseLong(id)).orElseThrow();
        var items = store.take(rule.id(), now);
        var toWhom = new LinkedHashMap<String, Recipients.Recipient>();
        var told = new LinkedHashMap<String, Map<Item, WorkCase>>();
        var known = recipients.now();
        var found = cases.find(items.stream().map(Item::caseId).toList());
        for (var item : items) {
            var one = found.get(item.caseId());
            var owner = owners.of(one).orElse(null);
            for (var step : rule.rule().steps())
                for (var who : known.of(step, owner, now).reached()) {
                    toWhom.put(who.who(), who);
                    told.computeIfAbsent(who.who(), it -> new LinkedHashMap<>()).put(item, one);
                }
        }
        told.forEach((who, all) -> {
            var to = toWhom.get(who).to();
            var at = times.now();
            var due = all.values().stream()
                    .map(one -> tellings.wished(one, to, at))
                    .min(Comparator.naturalOrder())
                    .orElse(at);
            mails.post(Delivery.fresh(
                    new Delivery.Of.Rule(rule.id()),
                    to,
                    null,
                    Delivery.About.DIGEST,
                    null,
                    subject(rule, all),
                    body(rule, all),
                    now,
                    due));
        });
        return Optional.empty();
    }

    private static String subject(CallOutRules.Stored rule, Map<Item, WorkCase> all) {
        long critical = all.keySet().stream()
                .filter(one -> one.severity() == Severity.CRITICAL)
                .count();
        return "%s: %d %s%s"
                .formatted(
                        rule.rule().name(),
                        all.size(),
                        all.size() == 1 ? "case" : "cases",
                        critical == 0 ? "" : ", " + critical + " of them critical");
    }

    private String body(CallOutRules.Stored rule, Map<Item, WorkCase> all) {
        var names = people.names();
        var lines = new ArrayList<String>();
        all.forEach((item, one) -> {
            if (lines.size() < NAMED) lines.add(line(item, one, names));
        });
        return """
                %s

                %s
                %sTimes are in %s.
                """
                .formatted(
                        rules.sentence(rule.rule()),
                        String.join("\n", lines),
                        all.size() > NAMED ? "and %,d more\n\n".formatted(all.size() - NAMED) : "",
                        times.zoneName());
    }

    private String line(Item item, WorkCase one, Map<Long, String> names) {
        var subject = estate.component(one.component());
        return """
                %s  %s %s: %s
                  %s; %s
                  %s
                """
                .formatted(
                        times.of(item.at()),
                        item.severity().word(),
                        item.happened().words(),
                        one.headline(),
                        estate.applicationOf(subject)
                                .map(Estate.Application::name)
                                .orElse("not assigned"),
                        standing(one, names),
                        settings.link("/cases/" + one.id()));
    }

    private static String standing(WorkCase one, Map<Long, String> names) {
        if (one.settled()) return "settled";
        if (one.overSince() != null) return "over";
        var taken = one.progress().takenBy();
        return taken == null ? "nobody has it" : names.getOrDefault(taken, "somebody") + " has it";
    }
}
