package app.morvet.views.upkeep;

import app.morvet.core.estate.Tier;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Csv;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Names, owners and tiers in bulk, as CSV (RFC 4180) with a head line: components with the columns {@code key, name, kind,
 * application, stands on}, or applications with {@code key, name, tier, environment, team}. A column that is left out, or a
 * cell that is empty, leaves what is there. Read whole before anything is changed.
 */
@Component
class EstateFile {
    private static final int MOST_LINES = 20_000;

    /** @param line from 1, the head line counted */
    record Fault(int line, String words) {}

    /** What a line will change. */
    record Change(int line, String key, String before, String after) {}

    /** What a file means. */
    record Read(List<Change> changes, int same, List<Fault> faults) {}

    private final Estate estate;
    private final Upkeep upkeep;

    EstateFile(Estate estate, Upkeep upkeep) {
        this.estate = estate;
        this.upkeep = upkeep;
    }

    Read read(String text) {
        return go(text, null);
    }

    /** Does what a file says, all of it or nothing. */
    @Transactional
    public Read apply(String text, Person by) {
        var read = go(text, null);
        return read.faults().isEmpty() ? go(text, by) : read;
    }

    private Read go(String text, @Nullable Person by) {
        var changes = new ArrayList<Change>();
        var faults = new ArrayList<Fault>();
        int same = 0;
        try (var lines = CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .setIgnoreHeaderCase(true)
                .setTrim(true)
                .setIgnoreSurroundingSpaces(true)
                .get()
                .parse(new StringReader(text.startsWith("\uFEFF") ? text.substring(1) : text))) {
            var head = lines.getHeaderNames().stream()
                    .map(name -> name.toLowerCase(Locale.ROOT))
                    .toList();
            if (!head.contains("key"))
                return new Read(
                        List.of(),
                        0,
                        List.of(
                                new Fault(
                                        1,
                                        "The head line has no column \"key\"; it names the columns, such as key,name,application.")));
            boolean applications = head.contains("team") && !head.contains("application")
                    || head.contains("tier") && !head.contains("kind") && !head.contains("application");
            var seen = new HashSet<String>();
            for (var line : lines) {
                int number = (int) lines.getCurrentLineNumber();
                if (line.getRecordNumber() > MOST_LINES) {
                    faults.add(new Fault(number, "At most 20,000 lines in one file."));
                    break;
                }
                try {
                    if (!seen.add(cell(line, "key").orElse("")))
                        throw new IllegalArgumentException(
                                "The key \"" + cell(line, "key").orElse("") + "\" stands twice in this file.");
                    var change = applications ? application(line, number, by) : component(line, number, by);
                    if (change.isPresent()) changes.add(change.get());
                    else same++;
                } catch (IllegalArgumentException wrong) {
                    faults.add(new Fault(number, String.valueOf(wrong.getMessage())));
                }
            }
        } catch (IOException | UncheckedIOException | IllegalStateException | IllegalArgumentException broken) {
            faults.add(new Fault(0, "This is not CSV: " + broken.getMessage()));
        }
        return new Read(changes, same, faults);
    }

    private static Optional<String> cell(CSVRecord line, String name) {
        if (!line.isMapped(name) || !line.isSet(name)) return Optional.empty();
        var value = Csv.plain(line.get(name));
        return value.isBlank() ? Optional.empty() : Optional.of(value);
    }

    private static String key(CSVRecord line) {
        var key = cell(line, "key").orElseThrow(() -> new IllegalArgumentException("The key is missing."));
        if (key.length() > 200) throw new IllegalArgumentException("A key has at most 200 characters.");
        return key;
    }

    private Optional<Change> component(CSVRecord line, int number, @Nullable Person by) {
        var key = key(line);
        var known = estate.byKey(key);
        var application = cell(line, "application");
        @Nullable
        Long applicationId = application.isEmpty()
                ? known.map(Estate.Component::applicationId).orElse(null)
                : application(application.get());
        var standsOn = cell(line, "stands on");
        @Nullable
        Long on = standsOn.isEmpty()
                ? known.map(Estate.Component::standsOn).orElse(null)
                : Long.valueOf(standing(standsOn.get()));
        var next = new Estate.Component(
                known.map(Estate.Component::id).orElse(0L),
                key,
                cell(line, "name").or(() -> known.map(Estate.Component::name)).orElse(key),
                cell(line, "kind").or(() -> known.map(Estate.Component::kind)).orElse("component"),
                applicationId,
                on,
                known.map(Estate.Component::firstSeen).orElse(java.time.Instant.EPOCH));
        if (!Estate.KINDS.contains(next.kind()))
            throw new IllegalArgumentException(
                    "There is no kind \"%s\"; kinds are %s.".formatted(next.kind(), String.join(", ", Estate.KINDS)));
        if (known.isPresent() && known.get().equals(next)) return Optional.empty();
        var change = new Change(number, key, known.map(upkeep::words).orElse("new"), upkeep.words(next));
        if (by != null) {
            if (known.isPresent()) upkeep.change(next, by);
            else upkeep.add(next, by);
        }
        return Optional.of(change);
    }

    private @Nullable Long application(String text) {
        if (text.equalsIgnoreCase(EstateSearch.UNASSIGNED)) return null;
        return estate.applications().stream()
                .filter(one -> one.key().equals(text) || one.name().equalsIgnoreCase(text))
                .findFirst()
                .map(Estate.Application::id)
                .orElseThrow(() -> new IllegalArgumentException("There is no application \"" + text + "\"."));
    }

    private long standing(String text) {
        return estate.byKey(text)
                .or(() -> estate.components().stream()
                        .filter(one -> one.name().equalsIgnoreCase(text))
                        .findFirst())
                .map(Estate.Component::id)
                .orElseThrow(() -> new IllegalArgumentException("There is no component \"" + text + "\" to stand on."));
    }

    private Optional<Change> application(CSVRecord line, int number, @Nullable Person by) {
        var key = key(line);
        var known = estate.application(key);
        var tier = cell(line, "tier").map(EstateFile::tier).or(() -> known.map(Estate.Application::tier));
        var team = cell(line, "team").map(this::team).or(() -> known.flatMap(one -> estate.team(one.teamId())));
        if (tier.isEmpty() || team.isEmpty())
            throw new IllegalArgumentException("A new application needs a tier and a team.");
        var environment = cell(line, "environment")
                .or(() -> known.map(Estate.Application::environment))
                .orElse("production");
        Upkeep.environment(environment);
        var next = new Estate.Application(
                known.map(Estate.Application::id).orElse(0L),
                key,
                cell(line, "name").or(() -> known.map(Estate.Application::name)).orElse(key),
                tier.get(),
                environment,
                team.get().id());
        if (known.isPresent() && known.get().equals(next)) return Optional.empty();
        var change = new Change(number, key, known.map(upkeep::words).orElse("new"), upkeep.words(next));
        if (by != null) {
            if (known.isPresent()) upkeep.change(next, by);
            else upkeep.add(key, next.name(), tier.get(), environment, team.get(), by);
        }
        return Optional.of(change);
    }

    private static Tier tier(String text) {
        if (!text.matches("[1-4]")) throw new IllegalArgumentException("A tier is 1, 2, 3 or 4, was \"" + text + "\".");
        return new Tier(Integer.parseInt(text));
    }

    private Estate.Team team(String text) {
        return estate.teams().stream()
                .filter(one -> one.key().equals(text) || one.name().equalsIgnoreCase(text))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("There is no team \"" + text + "\"."));
    }

    /** Rows of texts as CSV. */
    static String write(List<String> head, List<List<String>> rows) {
        var text = new StringBuilder();
        try (var out = new Csv(text)) {
            out.line(head);
            rows.forEach(out::line);
        }
        return text.toString();
    }
}
