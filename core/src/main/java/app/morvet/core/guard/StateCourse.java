package app.morvet.core.guard;

import app.morvet.core.guard.Course.Known;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.StateWords;
import org.jspecify.annotations.Nullable;

/**
 * What a state guard measures: the word that was told last, since when it is bad, and how bad. A word stands until another is
 * told, or until what was promised has not come (half a cadence late); then it is not known. What is not known in between does
 * not begin the time anew for which it must be bad.
 */
final class StateCourse {
    private StateCourse() {}

    /** One condition, walked along the readings. */
    private static final class Walk {
        private static final long NEVER = Long.MIN_VALUE;

        private final StateGuard.Condition condition;
        private final long span;
        private final boolean[] asked;

        /** Since when it is in what is asked for. */
        private long since = NEVER;
        /** When it came from what is not asked for into what is. */
        private long changed = NEVER;

        private boolean begun;

        Walk(StateGuard.Condition condition, StateWords words) {
            this.condition = condition;
            this.span = Micros.of(condition.span());
            this.asked = new boolean[words.all().size()];
            for (int i = 0; i < asked.length; i++)
                asked[i] = condition.asksFor(words.all().get(i));
        }

        void take(long at, int place) {
            boolean now = place >= 0 && place < asked.length && asked[place];
            if (now && since == NEVER) {
                since = at;
                if (begun) changed = at;
            }
            if (!now) since = NEVER;
            begun = true;
        }

        boolean isIn() {
            return since != NEVER;
        }

        boolean holdsAt(long at) {
            return condition.manner() == StateGuard.Manner.IN
                    ? since != NEVER && at - since >= span
                    : changed != NEVER && at - changed < span;
        }

        /** Whether an alert of it stays up. */
        boolean keepsAt(long at) {
            return condition.manner() == StateGuard.Manner.IN ? isIn() : holdsAt(at);
        }

        /** The instants at which it may begin or cease to hold while no reading comes. */
        void instants(Readings readings, Instants into) {
            var walk = new Walk(condition, asked);
            for (int i = 0; i < readings.size(); i++) {
                long at = readings.times()[i];
                walk.take(at, (int) readings.values()[i]);
                if (walk.since == at) into.add(at + span);
            }
        }

        private Walk(StateGuard.Condition condition, boolean[] asked) {
            this.condition = condition;
            this.span = Micros.of(condition.span());
            this.asked = asked;
        }
    }

    static Course of(StateGuard guard, Heard heard, long from, long to) {
        var readings = heard.readings();
        var words = heard.words();
        var warning = walk(guard.warning(), words);
        var critical = walk(guard.critical(), words);
        var noData = guard.terms().noData();
        long stands = Micros.of(SilenceGuard.missedAfter(heard.cadence()));
        var instants = new Instants(from, to);
        instants.addAll(readings, 0);
        instants.addSilences(readings, stands);
        if (noData.meaning() != NoData.Meaning.NOTHING) instants.addSilences(readings, Micros.of(noData.after()));
        if (warning != null) warning.instants(readings, instants);
        if (critical != null) critical.instants(readings, instants);
        var course = new Course(16);
        int high = 0;
        for (long at : instants.sorted()) {
            for (; high < readings.size() && readings.times()[high] <= at; high++) {
                int place = (int) readings.values()[high];
                if (warning != null) warning.take(readings.times()[high], place);
                if (critical != null) critical.take(readings.times()[high], place);
            }
            if (high == 0) {
                add(course, at, Double.NaN, Known.NO, 0, 0);
                continue;
            }
            int place = (int) readings.values()[high - 1];
            var known = Measuring.silentAt(noData, readings, high, at)
                    ? Known.SILENT
                    : at - readings.times()[high - 1] < stands ? Known.YES : Known.NO;
            add(
                    course,
                    at,
                    known == Known.YES ? guard.value(words.word(place), place) : Double.NaN,
                    known,
                    critical != null && critical.holdsAt(at) ? 2 : warning != null && warning.holdsAt(at) ? 1 : 0,
                    critical != null && critical.keepsAt(at) ? 2 : warning != null && warning.keepsAt(at) ? 1 : 0);
        }
        return course;
    }

    private static @Nullable Walk walk(StateGuard.@Nullable Condition condition, StateWords words) {
        return condition == null ? null : new Walk(condition, words);
    }

    /** Only what differs from the point before. */
    private static void add(Course course, long at, double value, Known known, int breach, int hold) {
        int last = course.size() - 1;
        if (last >= 0
                && Double.compare(course.value(last), value) == 0
                && course.known(last) == known
                && course.breached(last) == breach
                && course.held(last) == hold) return;
        course.add(at, value, known, breach, hold);
    }
}
