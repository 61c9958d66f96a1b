package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.Wording;
import app.morvet.core.cases.Headline;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseEvidence;
import app.morvet.work.cases.CaseFacts;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.WorkCase;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What people are told of a case, in words. */
@Component
class CallOutWords {
    private static final int NAMED = 5;

    private final CaseFacts facts;
    private final CaseEvidence evidence;
    private final WordingStore wordings;
    private final MailHtml html;
    private final CaseOwners owners;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Times times;

    CallOutWords(
            CaseFacts facts,
            CaseEvidence evidence,
            WordingStore wordings,
            MailHtml html,
            CaseOwners owners,
            Estate estate,
            MorvetSettings settings,
            Times times) {
        this.evidence = evidence;
        this.wordings = wordings;
        this.html = html;
        this.facts = facts;
        this.owners = owners;
        this.estate = estate;
        this.settings = settings;
        this.times = times;
    }

    /**
     * @param html  the same as the body, from the same source
     * @param brief what a text message says
     */
    record Words(String subject, String body, String html, String brief) {}

    /**
     * @param round  0 the first time
     * @param reader by whose clock whoever is told lives
     */
    Words of(WorkCase one, Delivery.About about, int round, ZoneId reader) {
        return of(one, about, round, reader, wordings.inForce(one.severity()));
    }

    Words of(WorkCase one, Delivery.About about, int round, ZoneId reader, WordingStore.Worded worded) {
        var names = new HashSet<>(worded.subject().uses());
        names.addAll(worded.body().uses());
        names.addAll(worded.brief().uses());
        var values = values(one, about, round, reader, names);
        return new Words(
                line(worded.subject(), values),
                filled(worded.body(), values) + "\n",
                html.of(worded.body(), values),
                line(worded.brief(), values));
    }

    private static String line(Wording wording, Map<String, MailHtml.Value> values) {
        return filled(wording, values).replaceAll("\\s*\n\\s*", " ");
    }

    private static String filled(Wording wording, Map<String, MailHtml.Value> values) {
        return wording.filled(
                name -> values.getOrDefault(name, MailHtml.Value.NONE).text());
    }

    /** A subject in Morvet's own words. */
    String subject(WorkCase one, Delivery.About about, int round) {
        return filled(
                WordingStore.OWN.subject(),
                values(
                        one,
                        about,
                        round,
                        times.zone(),
                        Set.copyOf(WordingStore.OWN.subject().uses())));
    }

    /** Of those that are asked for; each may take a look into the store. */
    private Map<String, MailHtml.Value> values(
            WorkCase one, Delivery.About about, int round, ZoneId reader, Set<String> names) {
        var values = new HashMap<String, MailHtml.Value>();
        for (var name : names) values.put(name, value(name, one, about, round, reader));
        return values;
    }

    private MailHtml.Value value(String name, WorkCase one, Delivery.About about, int round, ZoneId reader) {
        var subject = estate.component(one.component());
        var whose = estate.applicationOf(subject);
        var owner = owners.of(one).orElse(null);
        return switch (name) {
            case "told.as" -> MailHtml.Value.of(as(one, about, round));
            case "told.why" -> MailHtml.Value.of(what(one, about, subject, owner));
            case "case.headline" -> MailHtml.Value.strong(one.headline());
            case "case.number" -> MailHtml.Value.of("" + one.id());
            case "case.severity" -> MailHtml.Value.of(one.severity().word());
            case "case.link" -> MailHtml.Value.link(settings.link("/cases/" + one.id()));
            case "case.component" -> MailHtml.Value.of(subject.name());
            case "case.application" ->
                MailHtml.Value.of(whose.map(Estate.Application::name).orElse("not assigned"));
            case "case.tier" ->
                MailHtml.Value.of(whose.map(it -> "" + it.tier().number()).orElse(""));
            case "case.team" -> MailHtml.Value.of(owner == null ? "no team yet" : owner.name());
            case "case.facts" ->
                MailHtml.facts(facts(one, whose.map(Estate.Application::name).orElse("not assigned")));
            case "case.count" -> MailHtml.Value.of(one.failures() == 0 ? "" : "%,d".formatted(one.failures()));
            case "case.value" -> MailHtml.Value.of(fact(one, "Value"));
            case "case.limits" -> MailHtml.Value.of(fact(one, "Limits"));
            case "case.first" -> MailHtml.Value.of(times.exact(one.firstSeen()));
            case "case.last" -> MailHtml.Value.of(times.exact(one.lastSeen()));
            case "case.explains" -> MailHtml.Value.of(explains(one));
            case "case.fix" -> about == Delivery.About.OVER ? MailHtml.Value.NONE : html.note(evidence.fixNote(one));
            case "case.sample" -> MailHtml.Value.of(evidence.sample(one));
            // The picture is drawn as the mail is sent, and not while others wait for the case.
            case "case.changed" ->
                about == Delivery.About.OVER ? MailHtml.Value.NONE : MailHtml.list(evidence.changedBefore(one));
            case "case.output" -> evidence.output(one).map(MailHtml::output).orElse(MailHtml.Value.NONE);
            case "case.curve" ->
                evidence.isDrawn(one) ? MailHtml.curve("The curve of " + subject.name()) : MailHtml.Value.NONE;
            case "zone" -> MailHtml.Value.of(times.zoneNameFor(reader));
            default -> throw new IllegalArgumentException(name);
        };
    }

    private static String as(WorkCase one, Delivery.About about, int round) {
        var level = one.severity().word();
        var severity = level.substring(0, 1).toUpperCase(Locale.ROOT) + level.substring(1) + ": ";
        var words =
                switch (about) {
                    case LATE -> "Not taken in time: ";
                    case RETURNED -> "Returned: ";
                    case NOT_ACCEPTED -> "Not accepted: ";
                    case UNHEARD -> "Nobody takes it: ";
                    case OVER -> Headline.tellsOfOver(one.headline()) ? "" : "Over: ";
                    case OPENED, EXPLAINS, WINDOW, VENDOR, DIGEST, SIGN, TEST, NEWS -> severity;
                };
        return (round > 0 ? "Still open. " : "") + words;
    }

    private List<String[]> facts(WorkCase one, String application) {
        var all = new ArrayList<String[]>();
        all.add(new String[] {"Application", application});
        for (var fact : facts.of(one, times::exact)) all.add(new String[] {fact.name(), fact.words()});
        return all;
    }

    private String fact(WorkCase one, String name) {
        return facts.of(one, times::exact).stream()
                .filter(it -> it.name().equals(name))
                .map(CaseFacts.Fact::words)
                .findFirst()
                .orElse("");
    }

    /** {@code It explains trouble of A, B, C and 3 more.} */
    private String explains(WorkCase one) {
        var names = evidence.explained(one);
        if (names.isEmpty()) return "";
        var shown = String.join(", ", names.subList(0, Math.min(NAMED, names.size())));
        return "It explains trouble of " + shown
                + (names.size() > NAMED ? " and " + (names.size() - NAMED) + " more." : ".");
    }

    private static String what(
            WorkCase one, Delivery.About about, Estate.Component subject, Estate.@Nullable Team owner) {
        var whose = owner == null ? ", which belongs to no team yet." : ", which " + owner.name() + " owns.";
        var open = (one.severity() == Severity.CRITICAL ? "A critical case" : "A case") + " is open on "
                + subject.name() + whose;
        return switch (about) {
            case OVER ->
                "The " + (one.severity() == Severity.CRITICAL ? "critical case" : "case") + " on " + subject.name()
                        + " is over.";
            case LATE -> open + " Nobody has taken it in time.";
            case NOT_ACCEPTED -> open + " It was handed off, and the team has not accepted it in time.";
            case UNHEARD -> open + " Nobody has taken it: whoever can be told was told, or nobody can be reached.";
            case RETURNED ->
                open + " It was handed off and came back"
                        + (one.progress().returnReason().isBlank()
                                ? "."
                                : ": " + one.progress().returnReason());
            case OPENED, EXPLAINS, WINDOW, VENDOR, DIGEST, SIGN, TEST, NEWS -> open;
        };
    }

    /** What the team of something hears that a case holds up. */
    String heldUp(WorkCase one, Estate.Component held, Estate.Team team) {
        var owner = owners.of(one).orElse(null);
        return """
                %s, which %s owns, is held up by the trouble of %s.

                %s.

                %s
                You need not take it; you hear when it is over.

                Everything about it: %s
                """
                .formatted(
                        held.name(),
                        team.name(),
                        estate.component(one.component()).name(),
                        one.headline(),
                        owner == null ? "It belongs to no team yet." : owner.name() + " has been told.",
                        settings.link("/cases/" + one.id()));
    }
}
