package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.Way;
import app.morvet.ground.access.OwnZones;
import app.morvet.ground.duty.TeamHours;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What people are told of a case, put on its way in the words for it; and who has been told since something began. */
@Component
class CaseTellings {
    /** A settling can be taken back for a few seconds; nobody is told that it is over before that. */
    private static final Duration SECOND_THOUGHTS = Duration.ofSeconds(15);

    private final DeliveryStore deliveries;
    private final CallOutWords words;
    private final Mails mails;
    private final WishStore wishes;
    private final OwnZones zones;
    private final TeamHours hours;
    private final Estate estate;
    private final Times times;

    CaseTellings(
            DeliveryStore deliveries,
            CallOutWords words,
            Mails mails,
            WishStore wishes,
            OwnZones zones,
            TeamHours hours,
            Estate estate,
            Times times) {
        this.deliveries = deliveries;
        this.words = words;
        this.mails = mails;
        this.wishes = wishes;
        this.zones = zones;
        this.hours = hours;
        this.estate = estate;
        this.times = times;
    }

    /** What is not critical waits until whoever is told wishes to hear of it, and until their team may be called. */
    void post(WorkCase one, Delivery.To to, Delivery.About about, Delivery.@Nullable Turn turn, Instant now) {
        var due = times.now();
        var wished = wished(one, to, due);
        var person = to.person();
        var said = words.of(
                one, about, turn == null ? 0 : turn.round(), person == null ? times.zone() : zones.clockOf(person));
        var telling = Delivery.fresh(
                        new Delivery.Of.Case(one.id()),
                        to,
                        null,
                        about,
                        turn,
                        said.subject(),
                        said.body(),
                        now,
                        about == Delivery.About.OVER ? due.plus(SECOND_THOUGHTS) : due)
                .inWords(said.html(), said.brief());
        if (wished.isAfter(due)) mails.postLater(telling, wished);
        else mails.post(telling);
    }

    /** When somebody is told of a case: what is not critical waits until they wish to hear of it, and until their team may be called. */
    Instant wished(WorkCase one, Delivery.To to, Instant due) {
        if (one.severity() == Severity.CRITICAL) return due;
        var person = to.person();
        var team = to.team();
        var wished = person == null ? due : wishes.of(person).due(one.severity(), due, zones.clockOf(person));
        if (team == null) return wished;
        var tier = estate.tierOf(estate.component(one.component()));
        return hours.of(team).due(tier, one.severity(), wished);
    }

    /** All that was said of a case since the first of what runs on it began; nothing where nothing runs. */
    List<Delivery> since(List<CourseStore.Course> running, WorkCase one) {
        return running.stream()
                .map(CourseStore.Course::at)
                .min(Instant::compareTo)
                .map(began -> deliveries.since(one.id(), began))
                .orElse(List.of());
    }

    /**
     * All who were told of it hear that it is over, each once, by the way that they were told.
     *
     * @param silent courses whose rule tells nobody that it is over
     */
    void over(WorkCase one, List<CourseStore.Course> running, Set<Long> silent, Instant at) {
        var told = new ArrayList<Delivery.To>();
        for (var it : since(running, one)) {
            boolean tells = it.about() != Delivery.About.OVER
                    && it.to().hop().way() != Way.DESK
                    && (it.turn() == null || !silent.contains(it.turn().course()));
            if (tells && told.stream().noneMatch(other -> same(other, it.to()))) told.add(it.to());
        }
        for (var to : told) post(one, to, Delivery.About.OVER, null, at);
    }

    boolean heardThatItIsOver(WorkCase one, Delivery.To to, Instant since) {
        return deliveries.since(one.id(), since).stream()
                .anyMatch(it -> it.about() == Delivery.About.OVER && same(it.to(), to));
    }

    private static boolean same(Delivery.To one, Delivery.To other) {
        return one.person() != null
                ? one.person().equals(other.person())
                : one.hop().equals(other.hop());
    }
}
