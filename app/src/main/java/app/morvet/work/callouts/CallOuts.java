package app.morvet.work.callouts;

import app.morvet.core.cases.Headline;
import app.morvet.ground.access.People;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseFacts;
import app.morvet.work.cases.CaseOver;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.CaseTurnedCritical;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Decides who is told: whoever of the owning team is on duty, by mail, when a case is critical, and again when it is over. Puts the mail on its
 * way in the transaction that made it due.
 */
@Component
class CallOuts {
    /** A settling can be taken back for a few seconds; nobody is told that it is over before that. */
    private static final Duration SECOND_THOUGHTS = Duration.ofSeconds(15);

    private final DeliveryStore store;
    private final CaseBook cases;
    private final Estate estate;
    private final CaseOwners owners;
    private final CaseFacts facts;
    private final Mails mails;
    private final Rotas rotas;
    private final People people;
    private final MorvetSettings settings;
    private final Times times;

    CallOuts(
            DeliveryStore store,
            CaseBook cases,
            Estate estate,
            CaseOwners owners,
            CaseFacts facts,
            Mails mails,
            Rotas rotas,
            People people,
            MorvetSettings settings,
            Times times) {
        this.store = store;
        this.cases = cases;
        this.estate = estate;
        this.owners = owners;
        this.facts = facts;
        this.mails = mails;
        this.rotas = rotas;
        this.people = people;
        this.settings = settings;
        this.times = times;
    }

    @EventListener
    void on(CaseTurnedCritical turned) {
        if (!toldOf(turned.caseId())) tell(turned.caseId(), Delivery.About.OPENED, turned.at());
    }

    @EventListener
    void on(CaseOver over) {
        if (toldOf(over.caseId())) tell(over.caseId(), Delivery.About.OVER, over.at());
    }

    /** Whether the last word to the team was that there is trouble. */
    private boolean toldOf(long caseId) {
        return store.lastOf(caseId)
                .filter(last -> last.about() == Delivery.About.OPENED)
                .isPresent();
    }

    private void tell(long caseId, Delivery.About about, Instant at) {
        var one = cases.find(caseId).orElseThrow();
        var subject = estate.component(one.component());
        var owner = owners.of(one);
        if (owner.isEmpty()) {
            cases.log(caseId, "call-out", "Nobody was told: " + subject.name() + " belongs to no team yet", at);
            return;
        }
        var team = owner.get();
        var due = about == Delivery.About.OVER ? times.now().plus(SECOND_THOUGHTS) : times.now();
        mails.post(Delivery.fresh(
                new Delivery.Of.Case(caseId),
                team.id(),
                null,
                about,
                recipient(caseId, team, about, at),
                subjectLine(one, about),
                body(one, subject, team, about),
                at,
                due));
    }

    /** Who of the team is on duty and has a mail, else all of it; that it is over is told to whoever was told of it. */
    private String recipient(long caseId, Estate.Team team, Delivery.About about, Instant at) {
        if (about == Delivery.About.OVER)
            return store.lastOf(caseId).map(Delivery::recipient).orElse(team.mail());
        return rotas.onDuty(team.id(), at).stream()
                .map(one -> people.card(one.id()).map(People.Card::mail).orElse(""))
                .filter(mail -> !mail.isEmpty())
                .findFirst()
                .orElse(team.mail());
    }

    private static String subjectLine(WorkCase one, Delivery.About about) {
        var words =
                about == Delivery.About.OPENED ? "Critical: " : Headline.tellsOfOver(one.headline()) ? "" : "Over: ";
        return words + one.headline() + " (case " + one.id() + ")";
    }

    private String body(WorkCase one, Estate.Component subject, Estate.Team team, Delivery.About about) {
        var what = about == Delivery.About.OPENED
                ? "A critical case is open on " + subject.name() + ", which " + team.name() + " owns."
                : "The critical case on " + subject.name() + " is over.";
        var facts = new StringBuilder();
        fact(
                "Application",
                estate.applicationOf(subject).map(Estate.Application::name).orElse("not assigned"),
                facts);
        for (var fact : this.facts.of(one, times::exact)) fact(fact.name(), fact.words(), facts);
        return """
                %s

                %s.

                %s
                Times are in %s.

                Everything about it: %s
                """
                .formatted(what, one.headline(), facts, times.zoneName(), settings.link("/cases/" + one.id()));
    }

    private static void fact(String name, String words, StringBuilder facts) {
        facts.append("%-12s %s\n".formatted(name, words));
    }
}
