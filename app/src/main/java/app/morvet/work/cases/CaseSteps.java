package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Origins;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.page.FixNotes;
import app.morvet.ground.page.Times;
import java.time.Instant;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What is to be done about a case by the fix notes of its alerts: their steps can be ticked, with who did so and when. */
@Service
class CaseSteps {
    /** @param done by whom and when; empty where it is not */
    record Part(String html, String step, String done) {}

    /** @param name of all whose note it is */
    record Fix(String name, List<Part> parts) {}

    private record Done(long person, Instant at) {}

    private final JdbcClient jdbc;
    private final CaseBook book;
    private final CaseAlerts alerts;
    private final Origins origins;
    private final FixNotes notes;
    private final People people;
    private final Times times;

    CaseSteps(
            JdbcClient jdbc,
            CaseBook book,
            CaseAlerts alerts,
            Origins origins,
            FixNotes notes,
            People people,
            Times times) {
        this.jdbc = jdbc;
        this.book = book;
        this.alerts = alerts;
        this.origins = origins;
        this.notes = notes;
        this.people = people;
        this.times = times;
    }

    /** Each note once, under the names of all that say it. */
    List<Fix> of(WorkCase one) {
        var byNote = byNote(alerts.told(one));
        if (byNote.isEmpty()) return List.of();
        var done = done(one.id());
        var names = people.names();
        return byNote.entrySet().stream()
                .map(it -> new Fix(
                        String.join(", ", it.getValue()),
                        notes.parts(it.getKey()).stream()
                                .map(part -> new Part(part.html(), part.step(), words(done.get(part.step()), names)))
                                .toList()))
                .toList();
    }

    private String words(@Nullable Done one, Map<Long, String> names) {
        return one == null ? "" : names.getOrDefault(one.person(), "somebody") + ", " + times.of(one.at());
    }

    private Map<String, LinkedHashSet<String>> byNote(List<Alert> alerts) {
        var names = new LinkedHashMap<String, LinkedHashSet<String>>();
        for (var alert : alerts) {
            var kind = origins.of(alert);
            var note = kind.fixNote(alert);
            if (!note.isBlank())
                names.computeIfAbsent(note, none -> new LinkedHashSet<>()).add(kind.name(alert));
        }
        return names;
    }

    private Map<String, Done> done(long caseId) {
        var found = new HashMap<String, Done>();
        jdbc.sql("select step, person_id, done_at from case_step where case_id = :id")
                .param("id", caseId)
                .query(row -> {
                    found.put(
                            HexFormat.of().formatHex(row.getBytes("step")),
                            new Done(row.getLong("person_id"), Stamp.in(row, "done_at")));
                });
        return found;
    }

    /**
     * Somebody did a step, or takes back that they did. What is as it is said to be already stays.
     *
     * @throws IllegalArgumentException where the notes of the case have no such step any more
     */
    @Transactional
    public void tick(long caseId, String step, boolean done, Person by, Instant at) {
        var words = byNote(alerts.of(caseId)).keySet().stream()
                .flatMap(note -> notes.parts(note).stream())
                .filter(part -> part.isStep() && part.step().equals(step))
                .map(FixNotes.NotePart::words)
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException(
                        "The note has been changed; it has no such step any more. Nothing was ticked."));
        int changed = jdbc.sql(
                        done
                                ? """
                        insert into case_step (case_id, step, person_id, done_at)
                        values (:id, :step, :person, :at) on conflict do nothing"""
                                : "delete from case_step where case_id = :id and step = :step")
                .param("id", caseId)
                .param("step", HexFormat.of().parseHex(step))
                .param("person", by.id())
                .param("at", Stamp.of(at))
                .update();
        if (changed > 0) book.log(caseId, by, "step", (done ? "did: " : "did not do after all: ") + words, at);
    }
}
