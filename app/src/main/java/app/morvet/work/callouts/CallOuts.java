package app.morvet.work.callouts;

import app.morvet.alerting.windows.Windows;
import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Course;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Standing;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.cases.CaseState;
import app.morvet.core.estate.Scope;
import app.morvet.ground.access.Role;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseJoined;
import app.morvet.work.cases.CaseOpenAgain;
import app.morvet.work.cases.CaseOver;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.CaseReturned;
import app.morvet.work.cases.CaseTurned;
import app.morvet.work.cases.WorkCase;
import app.morvet.work.handoffs.HandoffAccepted;
import app.morvet.work.handoffs.HandoffDesk;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Has people told of cases by the rules: which rules take what happened is decided when it happens; whom they tell next follows from who
 * was told ({@link Course}). Puts each telling on its way in the transaction that made it due.
 */
@Component
class CallOuts implements Errand {
    /** The errand that looks whether somebody has taken a case. */
    static final String NEXT = "call-out-next";

    private static final Step LEADS =
            new Step(Duration.ZERO, new Whom.Role(Role.LEAD.name()), List.of(Way.TEXT, Way.MAIL));

    private final DeliveryStore deliveries;
    private final CourseStore courses;
    private final CallOutRules rules;
    private final CallOutDigests digests;
    private final Recipients recipients;
    private final CallOutWords words;
    private final CaseBook cases;
    private final CaseOwners owners;
    private final Windows windows;
    private final Estate estate;
    private final HandoffDesk handoffs;
    private final CaseTellings tellings;
    private final Errands errands;
    private final Live live;
    private final Times times;

    CallOuts(
            DeliveryStore deliveries,
            CourseStore courses,
            CallOutRules rules,
            CallOutDigests digests,
            Recipients recipients,
            CallOutWords words,
            CaseBook cases,
            CaseOwners owners,
            Windows windows,
            Estate estate,
            HandoffDesk handoffs,
            CaseTellings tellings,
            Errands errands,
            Live live,
            Times times) {
        this.deliveries = deliveries;
        this.courses = courses;
        this.rules = rules;
        this.digests = digests;
        this.recipients = recipients;
        this.words = words;
        this.cases = cases;
        this.owners = owners;
        this.windows = windows;
        this.estate = estate;
        this.handoffs = handoffs;
        this.tellings = tellings;
        this.errands = errands;
        this.live = live;
        this.times = times;
    }

    @EventListener
    void on(CaseTurned turned) {
        var worst = courses.worst(turned.caseId()).orElse(null);
        if (worst != null && !turned.severity().worseThan(worst)) return;
        courses.turned(turned.caseId(), turned.severity(), turned.at());
        var one = cases.find(turned.caseId()).orElseThrow();
        LateCases.watch(errands, one, turned.severity(), estate.tierOf(estate.component(one.component())), turned.at());
        happened(Happening.OPENED, one, turned.severity(), worst, turned.at());
    }

    @EventListener
    void on(CaseReturned returned) {
        var one = cases.find(returned.caseId()).orElseThrow();
        if (!one.settled()) happened(Happening.RETURNED, one, one.severity(), one.severity(), returned.at());
    }

    /** Nobody has taken a case in its time. */
    void late(WorkCase one, Severity severity, Instant at) {
        happened(Happening.LATE, one, severity, severity, at);
    }

    /** The team that it was handed to has not accepted it in its time. */
    void notAccepted(WorkCase one, Instant at) {
        happened(Happening.NOT_ACCEPTED, one, one.severity(), one.severity(), at);
    }

    /** Somebody has it: what was begun since nobody did ends. */
    @EventListener
    void on(HandoffAccepted accepted) {
        cases.lock(accepted.caseId());
        for (var course : courses.running(accepted.caseId()))
            if (course.happened() == Happening.NOT_ACCEPTED) courses.end(course.id(), accepted.at());
    }

    @EventListener
    void on(CaseOver over) {
        long id = over.caseId();
        var worst = courses.worst(id).orElse(null);
        if (worst == null) return;
        var running = courses.running(id);
        courses.turned(id, null, over.at());
        var one = cases.find(id).orElseThrow();
        var silent = running.stream()
                .filter(course -> !rule(course).over())
                .map(CourseStore.Course::id)
                .collect(Collectors.toSet());
        tellings.over(one, running, silent, over.at());
        for (var course : running) courses.end(course.id(), over.at());
        happened(Happening.OVER, one, worst, worst, over.at());
    }

    /** It goes on in another case: whoever is told from now on is told of that one. */
    @EventListener
    void on(CaseJoined joined) {
        courses.running(joined.caseId()).forEach(course -> courses.end(course.id(), joined.at()));
        if (courses.worst(joined.caseId()).isPresent()) courses.turned(joined.caseId(), null, joined.at());
    }

    @EventListener
    void on(CaseOpenAgain again) {
        courses.notOver(again.caseId());
        errands.at(again.at(), NEXT, "" + again.caseId());
    }

    private void happened(Happening what, WorkCase one, Severity severity, @Nullable Severity before, Instant when) {
        // As the store keeps it, so that what is due at once is due now.
        var at = when.truncatedTo(ChronoUnit.MICROS);
        var occasion = new CallOutRule.Occasion(what, severity, before, factsOf(one), at);
        var taking = CallOutRule.taking(rules.all(), CallOutRules.Stored::rule, occasion);
        var started = new ArrayList<Long>();
        for (var rule : taking)
            if (rule.rule().digest() == null) started.add(courses.start(rule.id(), one.id(), what, at));
            else digests.gather(rule, one, what, severity, at);
        if (!started.isEmpty()) advance(one, at).ifPresent(next -> errands.at(next, NEXT, "" + one.id()));
        // What is over is told once: there is nothing left to come.
        if (what == Happening.OVER) for (long course : started) courses.end(course, at);
    }

    /** What a case is about, as rules ask it. */
    List<Scope.Facts> factsOf(WorkCase one) {
        return cases.about(one).stream()
                .map(id -> windows.factsOf(estate.component(id)))
                .toList();
    }

    @Override
    public String name() {
        return NEXT;
    }

    /** Whoever was told last has had their time, or cannot. */
    @Override
    @Transactional
    public Optional<Instant> run(String id) {
        return run(id, times.now());
    }

    Optional<Instant> run(String id, Instant now) {
        return cases.lock(Long.parseLong(id)).flatMap(one -> advance(one, now));
    }

    /**
     * Tells whoever is next of all that runs on a case, if their time has come.
     *
     * @return when to look again; empty where nothing will change by itself
     */
    private Optional<Instant> advance(WorkCase found, Instant now) {
        var one = found;
        var running = courses.running(one.id());
        if (running.isEmpty()) return Optional.empty();
        var told = new ArrayList<>(
                deliveries.toldBy(running.stream().map(CourseStore.Course::id).toList()));
        var known = recipients.now();
        Instant look = null;
        var waiting = new ArrayList<Course.Next>();
        for (var course : running) {
            var next = next(course, one, told, known, now);
            while (!next.calls().isEmpty()) {
                for (var call : next.calls()) told.add(tell(course, one, call, known, now));
                // What was handed off is somebody's by now.
                one = cases.find(one.id()).orElseThrow();
                next = next(course, one, told, known, now);
            }
            if (next.unheard() || next.look() != null) waiting.add(next);
            if (next.look() != null && (look == null || next.look().isBefore(look))) look = next.look();
        }
        boolean unheard = !waiting.isEmpty() && waiting.stream().allMatch(Course.Next::unheard);
        if (unheard && running.stream().allMatch(course -> course.unheard() == null))
            unheard(running, one, told, known, now);
        return Optional.ofNullable(look);
    }

    private CallOutRule rule(CourseStore.Course course) {
        return rules.byId(course.rule()).orElseThrow().rule();
    }

    private Course.Next next(
            CourseStore.Course course, WorkCase one, List<DeliveryStore.Told> told, Recipients.Now known, Instant now) {
        var rule = rule(course);
        var owner = owners.of(one).orElse(null);
        var called = called(one);
        var mine = told.stream()
                .filter(it -> it.turn().course() == course.id())
                .map(it -> new Course.Told(
                        it.turn().step(), it.turn().round(), it.turn().who(), it.at(), it.cannot()))
                .toList();
        return Course.next(
                rule,
                course.at(),
                standing(one),
                mine,
                step -> known.of(rule.steps().get(step), owner, called, now).reached().stream()
                        .map(Recipients.Recipient::who)
                        .toList(),
                now);
    }

    private Recipients.Called called(WorkCase one) {
        return new Recipients.Called(estate.tierOf(estate.component(one.component())), one.severity());
    }

    private DeliveryStore.Told tell(
            CourseStore.Course course, WorkCase one, Course.Call call, Recipients.Now known, Instant now) {
        var rule = rule(course);
        var owner = owners.of(one).orElse(null);
        var turn = new Delivery.Turn(course.id(), call.step(), call.round(), call.who());
        var step = rule.steps().get(Math.min(call.step(), rule.steps().size() - 1));
        known.of(step, owner, called(one), now).reached().stream()
                .filter(it -> it.who().equals(call.who()))
                .findFirst()
                .map(Recipients.Recipient::to)
                // Somebody is told again who is not on duty any more.
                .or(() -> lastTo(one, call.who()))
                .filter(to -> course.happened() != Happening.OVER || !tellings.heardThatItIsOver(one, to, course.at()))
                .ifPresent(to -> {
                    var about = about(course.happened());
                    if (to.hop().way() == Way.DESK) handOff(one, to, about, turn, now);
                    else tellings.post(one, to, about, turn, now);
                });
        return new DeliveryStore.Told(turn, now, false);
    }

    /** Once a case for each time that something happened; that it was done stands with what people were told. */
    private void handOff(WorkCase one, Delivery.To to, Delivery.About about, Delivery.Turn turn, Instant now) {
        var team = estate.team(Objects.requireNonNull(to.team())).orElseThrow();
        var done = Delivery.fresh(
                new Delivery.Of.Case(one.id()), to, null, about, turn, words.subject(one, about, 0), "", now, now);
        deliveries.add(done);
        deliveries.sent(done.id(), "", now);
        handoffs.handOff(cases.find(one.id()).orElseThrow(), team, now);
    }

    private Optional<Delivery.To> lastTo(WorkCase one, String who) {
        return deliveries.ofCase(one.id()).stream()
                .filter(it -> it.turn() != null && it.turn().who().equals(who))
                .map(Delivery::to)
                .findFirst();
    }

    private static Delivery.About about(Happening what) {
        return switch (what) {
            case OPENED -> Delivery.About.OPENED;
            case LATE -> Delivery.About.LATE;
            case RETURNED -> Delivery.About.RETURNED;
            case NOT_ACCEPTED -> Delivery.About.NOT_ACCEPTED;
            case OVER -> Delivery.About.OVER;
            case WINDOW, BULLETIN, CHANGED, NEW, SETUP, UNDELIVERED -> Delivery.About.NEWS;
        };
    }

    /**
     * All who can be told by all that runs on a case were told and nobody takes it, or nobody can be told: the page says so, and leads
     * hear of it.
     */
    private void unheard(
            List<CourseStore.Course> running,
            WorkCase one,
            List<DeliveryStore.Told> told,
            Recipients.Now known,
            Instant now) {
        running.forEach(course -> courses.unheard(course.id(), now));
        var who = told.stream().map(it -> it.turn().who()).collect(Collectors.toSet());
        cases.log(
                one.id(),
                "call-out",
                who.isEmpty()
                        ? "Nobody was told: " + String.join("; ", missing(running, one, known, now))
                        : "Nobody has taken it; all who can be told were told",
                now);
        for (var lead : known.of(LEADS, null, now).reached())
            if (!who.contains(lead.who())) tellings.post(one, lead.to(), Delivery.About.UNHEARD, null, now);
        live.changed("now");
    }

    private Set<String> missing(List<CourseStore.Course> running, WorkCase one, Recipients.Now known, Instant now) {
        var owner = owners.of(one).orElse(null);
        var missing = new LinkedHashSet<String>();
        for (var course : running)
            for (var step : rule(course).steps())
                missing.addAll(known.of(step, owner, called(one), now).missing());
        return missing;
    }

    static Standing standing(WorkCase one) {
        var progress = one.progress();
        return new Standing(
                one.settled() || one.overSince() != null,
                progress.takenBy() != null,
                progress.state() == CaseState.HANDED_OFF,
                progress.returned(),
                progress.quietUntil());
    }

    /** Whether somebody has it, or nobody need have it now. */
    static boolean isHad(WorkCase one) {
        var now = standing(one);
        return now.over() || now.taken() || now.handedOff() || now.quietUntil() != null;
    }

    /** How many cases all who can be told were told of, and nobody has. */
    long unheard() {
        return cases.find(courses.unheard()).values().stream()
                .filter(one -> !isHad(one))
                .count();
    }
}
