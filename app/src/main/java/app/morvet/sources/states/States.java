package app.morvet.sources.states;

import app.morvet.core.readings.Micros;
import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.page.Live;
import app.morvet.sources.intake.StatesSaid;
import app.morvet.sources.readings.ReadingsRecorded;
import app.morvet.sources.readings.SeriesBook;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What states are now and when they changed, kept beside the readings: most readings of a state say what is known already, and
 * whoever asks since when something is stopped wants no walk through them. What comes late, behind a newer word, stands among the
 * readings only.
 */
@Service
public class States implements AgedData {
    private static final int LONGEST_SAID = 1_048_576;
    private static final String CUT = "\n… cut here, it was longer than 1 MiB";
    private static final Duration SAID_AGAIN = Duration.ofHours(1);
    /** What is kept of what one feed's states said a day. */
    private static final long MOST_A_DAY = 64L * 1_048_576;

    private static final int A_TIME = 5000;

    /** The topic on which open pages hear that a state became another. */
    public static final String TOPIC = "states";

    /**
     * @param place   of its word
     * @param since   when it came into it
     * @param heardAt when it was last heard to be so
     * @param became  whether it was ever in another
     */
    public record Now(long series, int place, Instant since, Instant heardAt, boolean became) {}

    /** @param changed whether the word became another; else only what it said did */
    public record Change(long series, Instant at, int place, boolean changed, String said) {}

    private final StateStore store;
    private final SeriesBook series;
    private final MorvetSettings settings;
    private final Live live;
    private final Clock clock;

    States(StateStore store, SeriesBook series, MorvetSettings settings, Live live, Clock clock) {
        this.store = store;
        this.series = series;
        this.settings = settings;
        this.live = live;
        this.clock = clock;
    }

    private record Heard(long series, Instant at, int place) {}

    @EventListener
    @Transactional(propagation = Propagation.MANDATORY)
    public void on(ReadingsRecorded recorded) {
        var heard = new HashMap<Long, List<Heard>>();
        for (int i = 0; i < recorded.series().length; i++) {
            long id = recorded.series()[i];
            if (!series.series(id).map(one -> one.measure().isState()).orElse(false)) continue;
            heard.computeIfAbsent(id, none -> new ArrayList<>())
                    .add(new Heard(id, Micros.instant(recorded.times()[i]), (int) recorded.values()[i]));
        }
        if (heard.isEmpty()) return;
        var known = store.lock(heard.keySet());
        var now = new ArrayList<Now>();
        var changes = new ArrayList<Change>();
        heard.forEach((id, some) -> {
            some.sort(Comparator.comparing(Heard::at));
            var before = known.get(id);
            var after = before;
            for (var one : some) {
                if (after != null && one.at().isBefore(after.heardAt())) continue;
                boolean changed = after == null || after.place() != one.place();
                if (changed) changes.add(new Change(id, one.at(), one.place(), true, ""));
                after = new Now(
                        id,
                        one.place(),
                        changed ? one.at() : after.since(),
                        one.at(),
                        after != null && (after.became() || changed));
            }
            if (after != null && after != before) now.add(after);
        });
        store.keep(now);
        store.add(changes, null);
        if (!changes.isEmpty()) live.changed(TOPIC);
    }

    /** What is said is kept where it or the word is another than before, else once an hour. */
    @EventListener
    @Transactional(propagation = Propagation.MANDATORY)
    public void on(StatesSaid told) {
        long left = MOST_A_DAY - store.keptSince(told.feed(), clock.instant().minus(Duration.ofDays(1)));
        var kept = new ArrayList<Change>();
        var latest = new HashMap<Long, Change>();
        var inOrder = told.all().stream()
                .sorted(Comparator.comparingLong(StatesSaid.Said::at))
                .toList();
        for (var one : inOrder) {
            var at = Micros.instant(one.at());
            var text = cut(PlainText.of(one.text()));
            var last = latest.computeIfAbsent(
                    one.series(), id -> store.lastSaid(id, at).orElse(null));
            boolean again = last != null
                    && last.place() == one.place()
                    && last.said().equals(text)
                    && Duration.between(last.at(), at).compareTo(SAID_AGAIN) < 0;
            if (again || text.length() > left) continue;
            left -= text.length();
            var change = new Change(one.series(), at, one.place(), false, text);
            latest.put(one.series(), change);
            // Told twice at one instant, the first stands, as of readings.
            if (last == null || !last.at().equals(at)) kept.add(change);
        }
        store.add(kept, told.feed());
    }

    private static String cut(String text) {
        return text.length() <= LONGEST_SAID ? text : PlainText.cut(text, LONGEST_SAID - CUT.length() - 1) + CUT;
    }

    /** Of some series, by their ids; those that were never heard are left out. */
    public Map<Long, Now> of(Collection<Long> series) {
        var found = new HashMap<Long, Now>();
        if (!series.isEmpty()) store.of(series).forEach(one -> found.put(one.series(), one));
        return found;
    }

    /** The words that some series were in during a span, the one at its begin among them; in order of time. */
    public Map<Long, List<Change>> changes(Collection<Long> series, Instant from, Instant to) {
        var found = new HashMap<Long, List<Change>>();
        if (series.isEmpty()) return found;
        store.changes(series, from, to).forEach(one -> found.computeIfAbsent(one.series(), none -> new ArrayList<>())
                .add(one));
        return found;
    }

    /**
     * When some series changed and what they said, the newest first.
     *
     * @param longest of what each said so many characters
     */
    public List<Change> latest(Collection<Long> series, int longest, int most) {
        return series.isEmpty() ? List.of() : store.latest(series, longest, most);
    }

    /** Nobody tells of some series any more: they are in nothing now. What they were stays. */
    @EventListener
    @Transactional(propagation = Propagation.MANDATORY)
    public void on(SeriesBook.SeriesEnded ended) {
        store.forget(ended.series());
        live.changed(TOPIC);
    }

    @Override
    public void dropOld(Instant now) {
        while (store.dropBefore(now.minus(settings.keepReadings()), A_TIME) == A_TIME) continue;
    }
}
