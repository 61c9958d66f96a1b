package app.morvet.standins.vendors;

import app.morvet.standins.Keep;
import app.morvet.standins.vendors.Truth.Feed;
import app.morvet.standins.vendors.Truth.Note;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** What is true of the vendors, kept over a restart. */
@Component
class Vendors {
    private static final String FILE = "vendors.json";
    private static final List<String> SAID =
            List.of("It serves again.", "Answers come slowly; we look into it.", "It does not serve. We work on it.");

    /** As it is kept. */
    record Kept(Map<String, Truth> all) {}

    private final Keep keep;
    private final Clock clock;
    private final Map<Vendor, Truth> all = new EnumMap<>(Vendor.class);

    Vendors(Keep keep, Clock clock) {
        this.keep = keep;
        this.clock = clock;
        keep.read(FILE, Kept.class).ifPresent(kept -> kept.all().forEach((key, one) -> all.put(Vendor.of(key), one)));
        if (all.isEmpty()) begin();
    }

    /** Each has planned something, and written of trouble before. */
    private void begin() {
        var now = now();
        for (var one : Vendor.values()) all.put(one, new Truth(0, 0, Feed.WELL, List.of()));
        add(
                Vendor.OSTREVIA,
                new Note("o-311", false, "Imports were slow", SAID.get(0), ago(now, 75), null, ago(now, 71), true));
        plan(Vendor.OSTREVIA, "New disks", now.plus(Duration.ofHours(44)), 120);
        add(
                Vendor.PELLAROO,
                new Note(
                        "p-98",
                        false,
                        "Pay runs did not start",
                        SAID.get(0),
                        ago(now, 128),
                        null,
                        ago(now, 125),
                        true));
        plan(Vendor.PELLAROO, "Tax tables of the spring", now.plus(Duration.ofHours(69)), 45);
        plan(Vendor.MARKENTIDE, "New certificates", now.plus(Duration.ofHours(21)), 30);
        plan(Vendor.MARKENTIDE, "Archive is moved", now.plus(Duration.ofDays(8)), 240);
    }

    private static Instant ago(Instant now, int hours) {
        return now.minus(Duration.ofHours(hours));
    }

    private Instant now() {
        return clock.instant().truncatedTo(ChronoUnit.SECONDS);
    }

    synchronized Truth of(Vendor one) {
        return all.get(one);
    }

    private void keep() {
        var kept = new HashMap<String, Truth>();
        all.forEach((vendor, truth) -> kept.put(vendor.key(), truth));
        keep.write(FILE, new Kept(kept));
    }

    private void add(Vendor one, Note note) {
        var notes = new ArrayList<>(of(one).notes());
        notes.add(note);
        all.put(one, of(one).with(notes));
    }

    private String id(Vendor one) {
        return one.key().charAt(0) + "-" + (400 + of(one).notes().size());
    }

    /**
     * It does better or worse.
     *
     * @param lying whether its feed goes on saying what it said
     */
    synchronized void set(Vendor one, int level, boolean lying) {
        var before = of(one);
        all.put(one, before.at(level, lying ? before.said() : level));
        if (!lying && before.said() != level) write(one, level);
        keep();
    }

    /** What it says of trouble goes on in one note, until that is over. */
    private void write(Vendor one, int level) {
        var notes = new ArrayList<>(of(one).notes());
        int open = -1;
        for (int i = 0; i < notes.size(); i++)
            if (!notes.get(i).planned() && !notes.get(i).closed()) open = i;
        if (open < 0) {
            if (level == 0) return;
            var title = level == 1 ? "Slow answers" : "No answers";
            notes.add(new Note(id(one), false, title, SAID.get(level), now(), null, now(), false));
        } else {
            var said = notes.get(open).with(notes.get(open).text() + "\n" + SAID.get(level), now());
            notes.set(open, level == 0 ? said.closed(now()) : said);
        }
        all.put(one, of(one).with(notes));
    }

    synchronized void feed(Vendor one, Feed feed) {
        all.put(one, of(one).by(feed));
        keep();
    }

    synchronized void plan(Vendor one, String title, Instant from, int minutes) {
        add(
                one,
                new Note(
                        id(one),
                        true,
                        title,
                        "Meanwhile %s is not to be reached.".formatted(one.instance()),
                        from,
                        from.plus(Duration.ofMinutes(minutes)),
                        now(),
                        false));
        keep();
    }

    /** Planned work is moved by some minutes, or called off. */
    synchronized void change(Vendor one, String id, int minutes, boolean off) {
        var notes = new ArrayList<Note>();
        for (var note : of(one).notes()) {
            var to = note.to();
            if (!note.id().equals(id) || to == null) notes.add(note);
            else if (off) notes.add(note.closed(now()));
            else {
                var by = Duration.ofMinutes(minutes);
                notes.add(note.during(note.from().plus(by), to.plus(by), now()));
            }
        }
        all.put(one, of(one).with(notes));
        keep();
    }
}
