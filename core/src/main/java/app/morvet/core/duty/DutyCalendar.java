package app.morvet.core.duty;

import app.morvet.core.windows.WorkCalendar;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Who is on duty, as a calendar that is kept elsewhere has it (iCalendar, RFC 5545): an event whose title has the name of somebody of the
 * team says that they cover, the first line where it names no other ({@code Otso Haapala, second line}); with the word <em>away</em> in it,
 * that they are away.
 */
public final class DutyCalendar {
    /** A calendar says no more than this. */
    public static final int MOST = 1000;

    private static final Pattern AWAY = Pattern.compile("\\baway\\b", Pattern.CASE_INSENSITIVE);

    private DutyCalendar() {}

    /**
     * @param changes in order of time; what goes on without a break is one
     * @param leftOut what says nothing of anybody of the team, and what could not be read, each once
     */
    public record Read(List<Rota.Change> changes, List<String> leftOut) {}

    private record Said(long person, int line, boolean away, Instant from, Instant to) {
        private Optional<Said> with(Said next) {
            boolean same = person == next.person && line == next.line && away == next.away;
            return same && !next.from.isAfter(to)
                    ? Optional.of(new Said(person, line, away, from, next.to.isAfter(to) ? next.to : to))
                    : Optional.empty();
        }

        private Rota.Change change() {
            return away ? new Rota.Change.Away(person, from, to) : new Rota.Change.Covers(person, line, from, to);
        }
    }

    /**
     * @param zone    of times that name none
     * @param members the names of those of the team, by id
     * @param from    what is over by then is left out without a word
     * @param to      what begins later, too
     * @throws IllegalArgumentException where it is no iCalendar, or says too much
     */
    public static Read read(String text, ZoneId zone, Map<Long, String> members, Instant from, Instant to) {
        var calendar = WorkCalendar.read(text, zone);
        var leftOut = new ArrayList<>(calendar.faults());
        var said = new ArrayList<Said>();
        for (var work : calendar.work()) {
            var plan = work.plan();
            if (plan == null) continue;
            var spans = plan.occurrences(from, to);
            if (spans.isEmpty()) continue;
            var person = person(work.title(), members);
            if (person == null) {
                leftOut.add("\"%s\" names nobody of this team, or several.".formatted(work.title()));
                continue;
            }
            boolean away = AWAY.matcher(work.title()).find();
            int line = away ? 0 : line(work.title());
            for (var one : spans)
                said.add(new Said(
                        person, line, away, one.span().from(), one.span().to()));
        }
        if (said.size() > MOST)
            throw new IllegalArgumentException(
                    "this calendar says more than %,d times who is on duty; take a shorter one".formatted(MOST));
        return new Read(joined(said), leftOut.stream().distinct().toList());
    }

    private static List<Rota.Change> joined(List<Said> said) {
        said.sort(Comparator.comparing(Said::person)
                .thenComparing(Said::line)
                .thenComparing(Said::away)
                .thenComparing(Said::from));
        var joined = new ArrayList<Said>();
        for (var one : said) {
            var more =
                    joined.isEmpty() ? Optional.<Said>empty() : joined.getLast().with(one);
            if (more.isPresent()) joined.set(joined.size() - 1, more.get());
            else joined.add(one);
        }
        return joined.stream()
                .sorted(Comparator.comparing(Said::from).thenComparing(Said::line))
                .map(Said::change)
                .toList();
    }

    /** The one whose name stands in a title; of names of which one is in the other, the longer. Null where it is not one. */
    private static @Nullable Long person(String title, Map<Long, String> members) {
        var found = members.entrySet().stream()
                .filter(one -> has(title, one.getValue()))
                .toList();
        var longest = found.stream()
                .max(Comparator.comparing(one -> one.getValue().length()))
                .orElse(null);
        if (longest == null) return null;
        boolean one = found.stream().allMatch(it -> has(longest.getValue(), it.getValue()));
        boolean twice = found.stream()
                .anyMatch(it -> !Objects.equals(it.getKey(), longest.getKey())
                        && it.getValue().equalsIgnoreCase(longest.getValue()));
        return one && !twice ? longest.getKey() : null;
    }

    private static boolean has(String text, String name) {
        return Pattern.compile(
                        "(?<![\\p{L}\\p{N}])" + Pattern.quote(name.toLowerCase(Locale.ROOT)) + "(?![\\p{L}\\p{N}])")
                .matcher(text.toLowerCase(Locale.ROOT))
                .find();
    }

    private static int line(String title) {
        var text = title.toLowerCase(Locale.ROOT);
        for (int line = Rota.MOST_LINES - 1; line > 0; line--) if (text.contains(Rota.LINES.get(line))) return line;
        return 0;
    }
}
