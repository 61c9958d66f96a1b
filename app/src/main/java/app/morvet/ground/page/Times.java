package app.morvet.ground.page;

import app.morvet.core.guard.Spans;
import app.morvet.ground.base.MorvetSettings;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Instants as people read them, in the zone of the estate. Known to templates as {@code @times}. */
@Component("times")
public class Times {
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter WEEKDAY = DateTimeFormatter.ofPattern("EEE HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter YEAR = DateTimeFormatter.ofPattern("d MMM yyyy HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter EXACT = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss", Locale.ENGLISH);

    private final Clock clock;
    private final ZoneId zone;

    public Times(Clock clock, MorvetSettings settings) {
        this.clock = clock;
        this.zone = settings.zone();
    }

    /** {@code 06:42} today, {@code Mon 23 Nov 06:42} within half a year, else with the year. */
    public String of(@Nullable Instant at) {
        if (at == null) return "";
        var now = clock.instant().atZone(zone);
        var then = at.atZone(zone);
        if (then.toLocalDate().equals(now.toLocalDate())) return CLOCK.format(then);
        boolean near = Duration.between(at, now.toInstant()).abs().toDays() < 180;
        return (near ? DAY : YEAR).format(then);
    }

    /** {@code Tue 16 Mar 22:40 to 23:30}; the second day is said where it is another. */
    public String span(Instant from, Instant to) {
        boolean sameDay = LocalDate.ofInstant(from, zone).equals(LocalDate.ofInstant(to, zone));
        return of(from) + " to " + (sameDay ? CLOCK.format(to.atZone(zone)) : of(to));
    }

    /** As {@link #of}, but short where the day of the week says it all: {@code Fri 06:30} within six days. */
    public String near(@Nullable Instant at) {
        if (at == null) return "";
        var days = ChronoUnit.DAYS.between(
                LocalDate.ofInstant(clock.instant(), zone), at.atZone(zone).toLocalDate());
        return days == 0 || Math.abs(days) > 6 ? of(at) : WEEKDAY.format(at.atZone(zone));
    }

    /** To the second, with the day. */
    public String exact(@Nullable Instant at) {
        return at == null ? "" : EXACT.format(at.atZone(zone));
    }

    /** How long ago, in words, at most two parts; {@code just now} under ten seconds. */
    public String ago(@Nullable Instant at) {
        if (at == null) return "";
        var span = Duration.between(at, clock.instant());
        return span.toSeconds() < 10 ? "just now" : Spans.words(coarse(span)) + " ago";
    }

    /** The length of a span, in words. */
    public String lasting(Instant from, @Nullable Instant to) {
        return Spans.words(coarse(Duration.between(from, to == null ? clock.instant() : to)));
    }

    private static Duration coarse(Duration span) {
        return span.toMinutes() >= 1 ? Duration.ofMinutes(span.toMinutes()) : span;
    }

    public Instant now() {
        return clock.instant();
    }

    /** The end of the running minute. What is drawn up to now is drawn up to there, so that it stays as it is until then. */
    public Instant endOfMinute() {
        return clock.instant().truncatedTo(ChronoUnit.MINUTES).plus(1, ChronoUnit.MINUTES);
    }

    public String clock() {
        return CLOCK.format(clock.instant().atZone(zone));
    }

    /** What it is now by the clock of another zone. */
    public String clock(String elsewhere) {
        return CLOCK.format(clock.instant().atZone(ZoneId.of(elsewhere)));
    }

    /** {@code Europe/Helsinki}. */
    public String zoneName() {
        return zone.getId();
    }

    /** {@code Europe/Helsinki; 06:42 there is 04:42 in Europe/Lisbon} to somebody who lives by another clock. */
    public String zoneNameFor(ZoneId reader) {
        return reader.equals(zone)
                ? zoneName()
                : "%s; %s there is %s in %s".formatted(zoneName(), clock(), clock(reader.getId()), reader.getId());
    }

    public ZoneId zone() {
        return zone;
    }
}
