package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseExplains;
import app.morvet.work.cases.CaseOwners;
import java.time.Duration;
import java.util.List;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Tells the teams of what a critical case holds up. */
@Component
class HeldUp {
    private final CaseTellings tellings;
    private final CourseStore courses;
    private final Recipients recipients;
    private final CallOutWords words;
    private final CaseBook cases;
    private final CaseOwners owners;
    private final Estate estate;
    private final Mails mails;
    private final Times times;

    HeldUp(
            CaseTellings tellings,
            CourseStore courses,
            Recipients recipients,
            CallOutWords words,
            CaseBook cases,
            CaseOwners owners,
            Estate estate,
            Mails mails,
            Times times) {
        this.tellings = tellings;
        this.courses = courses;
        this.recipients = recipients;
        this.words = words;
        this.cases = cases;
        this.owners = owners;
        this.estate = estate;
        this.mails = mails;
        this.times = times;
    }

    /** The team of what a critical case explains hears once that theirs is held up; to take it is for those whose the case is. */
    @EventListener
    void on(CaseExplains explains) {
        var one = cases.find(explains.caseId()).orElseThrow();
        var held = estate.component(explains.component());
        var team = estate.ownerOf(held).orElse(null);
        var owner = owners.of(one).orElse(null);
        if (one.severity() != Severity.CRITICAL || team == null || team.equals(owner)) return;
        boolean told = tellings.since(courses.running(one.id()), one).stream()
                .anyMatch(it -> it.about() == Delivery.About.EXPLAINS
                        && Long.valueOf(team.id()).equals(it.to().team()));
        if (told) return;
        var first = new Step(Duration.ZERO, new Whom.OnDuty(team.id(), 0), List.of(Way.MAIL));
        var to = recipients.now().of(first, team, explains.at()).reached().stream()
                .findFirst()
                .map(Recipients.Recipient::to)
                .orElse(Delivery.To.mail(team.id(), team.mail()));
        mails.post(Delivery.fresh(
                new Delivery.Of.Case(one.id()),
                to,
                null,
                Delivery.About.EXPLAINS,
                null,
                "Held up: %s, by %s (case %d)".formatted(held.name(), one.headline(), one.id()),
                words.heldUp(one, held, team),
                explains.at(),
                times.now()));
    }
}
