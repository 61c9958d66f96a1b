package app.morvet.demo;

import app.morvet.core.shift.ShiftPlan;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.views.shift.PastShifts;
import app.morvet.views.shift.ShiftPlans;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** Who had the shifts of the demo's past: three a day, each handed over some minutes before its time. */
@Component
@Profile("demo")
class DemoShifts {
    private static final int DAYS = 21;
    /** Whose log-ins have the early, the late and the night shift. */
    private static final List<String> OF = List.of("lead", "analyst2", "analyst");

    private static final List<LocalTime> FROM = List.of(LocalTime.of(6, 0), LocalTime.of(14, 0), LocalTime.of(22, 0));
    private static final Duration EARLY = Duration.ofMinutes(3);
    private static final String HANDOVER =
            """
            # Handover

            ## Still open
            - The exchange gateway of the hub is slow to answer now and then; Integration knows, nothing to do before Monday.
            - gangway-2 was slow on Monday evening. Platform says that it is not theirs since the move; to be settled who owns it.

            ## Watched
            - quay-03 fills its data disk. It was made free twice this week; **if it is above 90 % call Freight Systems**, they want to see it full.

            ## Coming
            - The close of the sailing day starts at 01:30. Settling bookings has been taking longer each night.
            - Sextant is upgraded in the night; alerts of sextant-1 are held until it is done.

            ## To know
            - The harbour authority has a new list of harbour codes since today.
            """;

    private final PastShifts shifts;
    private final ShiftPlans plans;
    private final People people;
    private final MorvetSettings settings;

    DemoShifts(PastShifts shifts, ShiftPlans plans, People people, MorvetSettings settings) {
        this.shifts = shifts;
        this.plans = plans;
        this.people = people;
        this.settings = settings;
    }

    void make(Instant now) {
        plans.set(
                new ShiftPlan(
                        List.of(
                                new ShiftPlan.Named("early shift", FROM.get(0)),
                                new ShiftPlan.Named("late shift", FROM.get(1)),
                                new ShiftPlan.Named("night shift", FROM.get(2))),
                        settings.zone()),
                null);
        var zone = settings.zone();
        var first = LocalDate.ofInstant(now, zone).minusDays(DAYS);
        Instant last = null;
        var by = of(0);
        for (int turn = 0; turn < (DAYS + 1) * OF.size(); turn++) {
            var at = first.plusDays(turn / OF.size())
                    .atTime(FROM.get(turn % OF.size()))
                    .atZone(zone)
                    .toInstant()
                    .minus(EARLY);
            if (!at.plus(Duration.ofMinutes(10)).isBefore(now)) break;
            if (last != null && at.plus(Duration.ofHours(9)).isAfter(now))
                shifts.handedOver(of(turn - 1).id(), HANDOVER, at.minus(Duration.ofMinutes(9)));
            by = of(turn);
            shifts.taken(by.id(), at);
            last = at;
        }
        if (last == null) return;
        var noted = last.plus(Duration.ofMinutes(6));
        shifts.noted(
                by.id(),
                "The harbour authority called: their new codes are in use since the evening. What they refuse is ours to correct.",
                noted);
        var remind = now.plus(Duration.ofMinutes(22)).truncatedTo(ChronoUnit.MINUTES);
        shifts.noted(
                by.id(),
                "Look whether settle-bookings has come to its end; if not, call Finance Systems. @lead knows what was agreed with them.",
                remind,
                noted);
    }

    private Person of(int turn) {
        var login = OF.get(Math.floorMod(turn, OF.size()));
        return people.all().stream()
                .filter(one -> one.login().equals(login))
                .findFirst()
                .orElseThrow();
    }
}
