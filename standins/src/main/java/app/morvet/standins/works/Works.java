package app.morvet.standins.works;

import app.morvet.standins.Keep;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Planned works in the harbour, kept over a restart, as iCalendar. */
@Component
class Works {
    private static final String FILE = "works.json";
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final DateTimeFormatter WALL = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss");
    private static final DateTimeFormatter STAMP =
            DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

    /**
     * One of them.
     *
     * @param rule by which it recurs (RFC 5545); empty where it is once
     */
    record Work(String id, String title, String place, LocalDateTime begin, int minutes, String rule, boolean off) {}

    /** As they are kept. */
    record Kept(List<Work> all) {}

    private final Keep keep;
    private final Clock clock;
    private final List<Work> all = new ArrayList<>();

    Works(Keep keep, Clock clock) {
        this.keep = keep;
        this.clock = clock;
        keep.read(FILE, Kept.class).ifPresentOrElse(kept -> all.addAll(kept.all()), this::begin);
    }

    private void begin() {
        var today = LocalDateTime.ofInstant(clock.instant(), ZONE).truncatedTo(ChronoUnit.DAYS);
        all.add(new Work(
                "h-1", "Power test", "quay-04", today.plusDays(1).plusHours(3), 45, "FREQ=WEEKLY;COUNT=8", false));
        all.add(new Work(
                "h-2", "Cable works at the pier", "quay-03", today.plusDays(3).plusHours(22), 120, "", false));
        all.add(new Work(
                "h-3", "Crane is inspected", "the north pier", today.plusDays(5).plusHours(8), 180, "", false));
    }

    synchronized List<Work> all() {
        return List.copyOf(all);
    }

    synchronized void add(String title, String place, int in, int minutes) {
        var begin = LocalDateTime.ofInstant(clock.instant(), ZONE)
                .truncatedTo(ChronoUnit.MINUTES)
                .plusMinutes(in);
        all.add(new Work("h-" + (all.size() + 1), title, place, begin, minutes, "", false));
        keep.write(FILE, new Kept(all));
    }

    /** One is moved by some minutes, or called off. */
    synchronized void change(String id, int minutes, boolean off) {
        all.replaceAll(one -> !one.id().equals(id)
                ? one
                : new Work(
                        id,
                        one.title(),
                        one.place(),
                        one.begin().plusMinutes(minutes),
                        one.minutes(),
                        one.rule(),
                        off));
        keep.write(FILE, new Kept(all));
    }

    synchronized String calendar() {
        var text = new StringBuilder("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Harbour//works//EN\r\n");
        for (var one : all)
            text.append("BEGIN:VEVENT\r\nUID:%s@harbour\r\nDTSTAMP:%s\r\nDTSTART;TZID=%s:%s\r\nDURATION:PT%dM\r\n"
                            .formatted(
                                    one.id(),
                                    STAMP.format(now()),
                                    ZONE.getId(),
                                    WALL.format(one.begin()),
                                    one.minutes()))
                    .append("SUMMARY:%s\r\nLOCATION:%s\r\n".formatted(escaped(one.title()), escaped(one.place())))
                    .append(one.rule().isEmpty() ? "" : "RRULE:" + one.rule() + "\r\n")
                    .append(one.off() ? "STATUS:CANCELLED\r\n" : "")
                    .append("END:VEVENT\r\n");
        return text.append("END:VCALENDAR\r\n").toString();
    }

    private Instant now() {
        return clock.instant().truncatedTo(ChronoUnit.SECONDS);
    }

    private static String escaped(String text) {
        return text.replace("\\", "\\\\")
                .replace(";", "\\;")
                .replace(",", "\\,")
                .replaceAll("\\R", "\\\\n");
    }

    /** How long until one begins, as the panel says it. */
    static String when(Work one) {
        return one.begin() + " for "
                + Duration.ofMinutes(one.minutes()).toString().substring(2).toLowerCase(java.util.Locale.ROOT);
    }
}
