package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.Headline;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseFacts;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.WorkCase;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What people are told of a case, in words. */
@Component
class CallOutWords {
    private final CaseFacts facts;
    private final CaseOwners owners;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Times times;

    CallOutWords(CaseFacts facts, CaseOwners owners, Estate estate, MorvetSettings settings, Times times) {
        this.facts = facts;
        this.owners = owners;
        this.estate = estate;
        this.settings = settings;
        this.times = times;
    }

    /** @param round 0 the first time */
    String subject(WorkCase one, Delivery.About about, int round) {
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
        return (round > 0 ? "Still open. " : "") + words + one.headline() + " (case " + one.id() + ")";
    }

    String body(WorkCase one, Delivery.About about) {
        var subject = estate.component(one.component());
        var owner = owners.of(one).orElse(null);
        var text = new StringBuilder();
        fact(
                "Application",
                estate.applicationOf(subject).map(Estate.Application::name).orElse("not assigned"),
                text);
        for (var fact : facts.of(one, times::exact)) fact(fact.name(), fact.words(), text);
        return """
                %s

                %s.

                %s
                Times are in %s.

                Everything about it: %s
                """
                .formatted(
                        what(one, about, subject, owner),
                        one.headline(),
                        text,
                        times.zoneName(),
                        settings.link("/cases/" + one.id()));
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

    private static void fact(String name, String words, StringBuilder facts) {
        facts.append("%-12s %s\n".formatted(name, words));
    }
}
