package app.morvet.views.teams;

import app.morvet.core.duty.Rota;
import app.morvet.core.windows.WindowTrack;
import app.morvet.ground.access.People;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.stereotype.Component;

/** The next four weeks of a rota as tracks, a line each, with what nobody is on duty for. */
@Component
class RotaPicture {
    private static final int DAYS = 28;
    private static final int WIDTH = 896;
    private static final int MOST_GAPS = 12;
    private static final double NAMED_FROM = 46;
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d", Locale.ENGLISH);

    record Day(String words, double x, double width, boolean weekend) {}

    /** @param css {@code turn}, {@code other} for every second one, {@code covers} or {@code gap} */
    record Bar(String name, String words, String css, double x, double width) {}

    record Line(String name, List<Bar> bars) {}

    /** @param gaps when nobody is on duty, in words */
    record Drawn(int width, double now, List<Day> days, List<Line> lines, List<String> gaps) {
        public boolean isEmpty() {
            return lines.isEmpty();
        }
    }

    private final People people;
    private final Times times;

    RotaPicture(People people, Times times) {
        this.people = people;
        this.times = times;
    }

    Drawn of(Rota rota) {
        var now = times.now();
        var from = now.atZone(rota.zone()).toLocalDate().atStartOfDay(rota.zone());
        var to = from.plusDays(DAYS).toInstant();
        var track = new WindowTrack(from.toInstant(), to, WIDTH);
        var names = people.names();
        var lines = new ArrayList<Line>();
        var gaps = new ArrayList<String>();
        for (int line = 0; line < rota.lines().size(); line++) {
            if (rota.lines().get(line).isEmpty()) continue;
            lines.add(new Line(Rotas.line(line), bars(rota.duties(line, from.toInstant(), to), track, names)));
            gaps(rota, line, now, to, gaps);
        }
        return new Drawn(
                WIDTH,
                track.x(now),
                track.days(rota.zone()).stream()
                        .map(it -> new Day(DAY.format(it.day()), it.x(), it.width(), it.weekend()))
                        .toList(),
                lines,
                gaps);
    }

    private List<Bar> bars(List<Rota.Duty> duties, WindowTrack track, Map<Long, String> names) {
        var bars = new ArrayList<Bar>();
        boolean other = false;
        for (var duty : duties) {
            if (duty.closed()) continue;
            double x = track.x(duty.from());
            double width = track.x(duty.to()) - x;
            var person = duty.person();
            var name = person == null ? "nobody" : names.getOrDefault(person, "somebody");
            var words = name + (duty.covers() ? " covers" : "") + ", " + times.span(duty.from(), duty.to());
            bars.add(new Bar(
                    width < NAMED_FROM ? "" : shortened(name, width),
                    words,
                    duty.gap() ? "gap" : duty.covers() ? "covers" : other ? "other" : "turn",
                    x,
                    width));
            if (!duty.gap()) other = !other;
        }
        return bars;
    }

    /** As much of a name as has room: the first name, and the rest where it fits. */
    private static String shortened(String name, double width) {
        int room = (int) (width / 7.2);
        if (name.length() <= room) return name;
        var first = name.split(" ")[0];
        return first.length() <= room ? first : first.substring(0, Math.max(1, room));
    }

    private void gaps(Rota rota, int line, Instant now, Instant to, List<String> gaps) {
        var found = rota.gaps(line, now, to);
        var lasting = found.stream()
                .map(one -> Duration.between(one.from(), one.to()))
                .reduce(Duration.ZERO, Duration::plus);
        if (found.size() > 3) {
            gaps.add("In the %s nobody is on duty %d times, %d h in all."
                    .formatted(Rotas.line(line), found.size(), lasting.toHours()));
            return;
        }
        for (var one : found)
            if (gaps.size() < MOST_GAPS)
                gaps.add("In the %s nobody is on duty %s."
                        .formatted(Rotas.line(line), times.span(one.from(), one.to())));
    }
}
