package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.Ladder;
import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.Headline;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseExplains;
import app.morvet.work.cases.CaseFacts;
import app.morvet.work.cases.CaseOver;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.CaseTurnedCritical;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Decides who is told of a critical case: whoever of the owning team is on duty, line by line until somebody has it, at last all of
 * the team; and all of them when it is over. Puts each mail on its way in the transaction that made it due.
 */
@Component
class CallOuts implements Errand {
    /** The errand that looks whether somebody has taken a case. */
    static final String NEXT = "call-out-next";

    /** So long whoever is told has to take it, before the next is told. */
    static final Duration PATIENCE = Duration.ofMinutes(15);

    /** A settling can be taken back for a few seconds; nobody is told that it is over before that. */
    private static final Duration SECOND_THOUGHTS = Duration.ofSeconds(15);

    private final DeliveryStore store;
    private final CaseBook cases;
    private final Estate estate;
    private final CaseOwners owners;
    private final CaseFacts facts;
    private final Mails mails;
    private final Errands errands;
    private final Live live;
    private final Rotas rotas;
    private final MorvetSettings settings;
    private final Times times;

    CallOuts(
            DeliveryStore store,
            CaseBook cases,
            Estate estate,
            CaseOwners owners,
            CaseFacts facts,
            Mails mails,
            Errands errands,
            Live live,
            Rotas rotas,
            MorvetSettings settings,
            Times times) {
        this.store = store;
        this.cases = cases;
        this.estate = estate;
        this.owners = owners;
        this.facts = facts;
        this.mails = mails;
        this.errands = errands;
        this.live = live;
        this.rotas = rotas;
        this.settings = settings;
        this.times = times;
    }

    @EventListener
    void on(CaseTurnedCritical turned) {
        if (toldOf(turned.caseId())) return;
        tellNext(turned.caseId(), turned.at()).ifPresent(next -> errands.at(next, NEXT, "" + turned.caseId()));
    }

    @EventListener
    void on(CaseOver over) {
        store.heard(over.caseId());
        if (toldOf(over.caseId())) tellThatItIsOver(over.caseId(), over.at());
    }

    /** The team of what a critical case explains hears once that theirs is held up; to take it is for those whose the case is. */
    @EventListener
    void on(CaseExplains explains) {
        var one = cases.find(explains.caseId()).orElseThrow();
        var held = estate.component(explains.component());
        var team = estate.ownerOf(held).orElse(null);
        var owner = owners.of(one).orElse(null);
        if (one.severity() != Severity.CRITICAL || team == null || team.equals(owner)) return;
        boolean told = store.toldOf(one.id(), Delivery.About.EXPLAINS).stream()
                .anyMatch(it -> Long.valueOf(team.id()).equals(it.team()));
        if (told) return;
        var rung = rungs(team, explains.at()).getFirst();
        mails.post(Delivery.fresh(
                        new Delivery.Of.Case(one.id()),
                        team.id(),
                        null,
                        Delivery.About.EXPLAINS,
                        rung.mail(),
                        "Held up: %s, by %s (case %d)".formatted(held.name(), one.headline(), one.id()),
                        heldUp(one, held, team, owner),
                        explains.at(),
                        times.now())
                .to(rung.person()));
    }

    private String heldUp(WorkCase one, Estate.Component held, Estate.Team team, Estate.@Nullable Team owner) {
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

    /** Whether the last word to the team was that there is trouble. */
    private boolean toldOf(long caseId) {
        return store.lastOf(caseId)
                .filter(last -> last.about() == Delivery.About.OPENED)
                .isPresent();
    }

    @Override
    public String name() {
        return NEXT;
    }

    /** Whoever was told last has had their time, or cannot. */
    @Override
    @Transactional
    public Optional<Instant> run(String id) {
        var one = cases.find(Long.parseLong(id)).orElse(null);
        if (one == null || one.severity() != Severity.CRITICAL || isHad(one)) {
            store.heard(Long.parseLong(id));
            // Quiet is no owner: when it ends and nobody has it still, whoever is next is told.
            return Optional.ofNullable(one).filter(CallOuts::isOnlyQuiet).map(it -> it.progress()
                    .quietUntil());
        }
        return tellNext(one.id(), times.now());
    }

    /** Whether somebody has it, or nobody need have it any more. */
    static boolean isHad(WorkCase one) {
        var progress = one.progress();
        return one.settled()
                || one.overSince() != null
                || progress.takenBy() != null
                || progress.quietUntil() != null
                || progress.state() == CaseState.HANDED_OFF;
    }

    private static boolean isOnlyQuiet(WorkCase one) {
        return !one.settled() && one.overSince() == null && one.progress().state() == CaseState.NEW;
    }

    /** Somebody who can be told. */
    private record Rung(String who, @Nullable Long person, String mail) {}

    /** Who of the team is on duty and has a mail, line by line, and at last all of the team. */
    private List<Rung> rungs(Estate.Team team, Instant at) {
        var rungs = new ArrayList<Rung>();
        for (var one : rotas.onDuty(team.id(), at))
            if (!one.mail().isEmpty())
                rungs.add(new Rung("person " + one.person().id(), one.person().id(), one.mail()));
        rungs.add(new Rung("team " + team.id(), null, team.mail()));
        return rungs;
    }

    /**
     * Tells whoever is next, if their time has come.
     *
     * @return when to look again; empty where there is nobody left, or nobody to tell
     */
    private Optional<Instant> tellNext(long caseId, Instant now) {
        var one = cases.find(caseId).orElseThrow();
        var subject = estate.component(one.component());
        var owner = owners.of(one);
        if (owner.isEmpty()) {
            cases.log(caseId, "call-out", "Nobody was told: " + subject.name() + " belongs to no team yet", now);
            return Optional.empty();
        }
        var team = owner.get();
        var rungs = rungs(team, now);
        var names = rungs.stream().map(Rung::who).toList();
        var told = new ArrayList<Ladder.Told>();
        for (var it : store.toldOf(caseId, Delivery.About.OPENED))
            told.add(new Ladder.Told(
                    it.person() == null ? "team " + it.team() : "person " + it.person(), it.at(), it.cannot()));
        var next = Ladder.next(names, told, PATIENCE, now);
        if (next.isPresent() && !next.get().at().isAfter(now)) {
            var rung = rungs.get(names.indexOf(next.get().who()));
            mails.post(Delivery.fresh(
                            new Delivery.Of.Case(caseId),
                            team.id(),
                            null,
                            Delivery.About.OPENED,
                            rung.mail(),
                            subjectLine(one, Delivery.About.OPENED),
                            body(one, subject, team, Delivery.About.OPENED),
                            now,
                            times.now())
                    .to(rung.person()));
            return Optional.of(now.plus(PATIENCE));
        }
        if (next.isPresent()) return next.map(Ladder.Next::at);
        var plain = Ladder.nobodySince(names, told, PATIENCE, now).orElse(now);
        if (plain.isAfter(now)) return Optional.of(plain);
        cases.log(caseId, "call-out", "Nobody has taken it; all who can be told were told", now);
        store.unheard(caseId, now);
        live.changed("now");
        return Optional.empty();
    }

    /** All who were told of it hear that it is over, each once. */
    private void tellThatItIsOver(long caseId, Instant at) {
        var one = cases.find(caseId).orElseThrow();
        var subject = estate.component(one.component());
        var told = new LinkedHashMap<String, DeliveryStore.Told>();
        for (var about : List.of(Delivery.About.OPENED, Delivery.About.EXPLAINS))
            store.toldOf(caseId, about).forEach(it -> told.putIfAbsent(it.recipient(), it));
        for (var it : told.values()) {
            var team = Optional.ofNullable(it.team()).flatMap(estate::team).or(() -> owners.of(one));
            if (team.isEmpty()) continue;
            mails.post(Delivery.fresh(
                            new Delivery.Of.Case(caseId),
                            team.get().id(),
                            null,
                            Delivery.About.OVER,
                            it.recipient(),
                            subjectLine(one, Delivery.About.OVER),
                            body(one, subject, team.get(), Delivery.About.OVER),
                            at,
                            times.now().plus(SECOND_THOUGHTS))
                    .to(it.person()));
        }
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
