package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CaseStory;
import app.morvet.core.callouts.Happening;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of what cases came to be, and of rules at work on them. */
@Repository
class CourseStore {
    private final JdbcClient jdbc;

    CourseStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param severity null where it is over */
    void turned(long caseId, @Nullable Severity severity, Instant at) {
        jdbc.sql("insert into case_turn (case_id, at, severity) values (:case, :at, :severity)")
                .param("case", caseId)
                .param("at", Stamp.of(at))
                .param("severity", severity == null ? null : severity.name())
                .update();
    }

    /** What was said to be over is not, after all: both that it was, and the end of what ran until then, are taken back. */
    void notOver(long caseId) {
        jdbc.sql(
                        """
                        update call_out_course set ended_at = null
                         where case_id = :case
                           and ended_at = (select max(at) from case_turn where case_id = :case and severity is null)""")
                .param("case", caseId)
                .update();
        jdbc.sql(
                        """
                        delete from case_turn
                         where case_id = :case and severity is null
                           and at = (select max(at) from case_turn where case_id = :case)""")
                .param("case", caseId)
                .update();
    }

    /** The worst that a case has been since it was last over; empty where it is new. */
    Optional<Severity> worst(long caseId) {
        return jdbc.sql(
                        """
                        select severity from case_turn
                         where case_id = :case and severity is not null
                           and at >= coalesce((select max(at) from case_turn where case_id = :case and severity is null), '-infinity')
                         order by array_position(array['CRITICAL', 'WARNING', 'NOTICE'], severity) limit 1""")
                .param("case", caseId)
                .query((row, number) -> Severity.valueOf(row.getString("severity")))
                .optional();
    }

    /** Whether a case was over at any time since an instant. */
    boolean wasOverSince(long caseId, Instant at) {
        return jdbc.sql(
                        "select exists (select 1 from case_turn where case_id = :case and severity is null and at >= :at)")
                .param("case", caseId)
                .param("at", Stamp.of(at))
                .query(Boolean.class)
                .single();
    }

    /** What the cases that turned since an instant came to be from then on, by case, the latest cases first; at most so many cases. */
    Map<Long, List<CaseStory.Event>> since(Instant since, int most) {
        var found = new LinkedHashMap<Long, List<CaseStory.Event>>();
        jdbc.sql(
                        """
                        select t.case_id, t.at, t.severity from case_turn t
                          join (select case_id, max(at) as last from case_turn where at >= :since
                                 group by case_id order by last desc limit :most) c on c.case_id = t.case_id
                         where t.at >= :since
                         order by c.last desc, t.case_id, t.at""")
                .param("since", Stamp.of(since))
                .param("most", most)
                .query(row -> {
                    var severity = row.getString("severity");
                    var at = Stamp.in(row, "at");
                    found.computeIfAbsent(row.getLong("case_id"), it -> new ArrayList<>())
                            .add(
                                    severity == null
                                            ? CaseStory.Event.of(CaseStory.What.OVER, at)
                                            : CaseStory.Event.turned(Severity.valueOf(severity), at));
                });
        return found;
    }

    /** @param unheard since when all who can be told were told, and nobody took it; or null */
    record Course(long id, long rule, Happening happened, Instant at, @Nullable Instant unheard) {}

    long start(long rule, long caseId, Happening happened, Instant at) {
        return jdbc.sql(
                        """
                        insert into call_out_course (rule_id, case_id, happened, at)
                        values (:rule, :case, :happened, :at) returning id""")
                .param("rule", rule)
                .param("case", caseId)
                .param("happened", happened.name())
                .param("at", Stamp.of(at))
                .query(Long.class)
                .single();
    }

    /** What runs on a case; whoever else asks waits until this transaction is over, so nobody is told by two. */
    List<Course> running(long caseId) {
        return jdbc.sql(
                        "select * from call_out_course where case_id = :case and ended_at is null order by id for no key update")
                .param("case", caseId)
                .query((row, number) -> new Course(
                        row.getLong("id"),
                        row.getLong("rule_id"),
                        Happening.valueOf(row.getString("happened")),
                        Stamp.in(row, "at"),
                        Stamp.orNull(row, "unheard")))
                .list();
    }

    void end(long course, Instant at) {
        jdbc.sql("update call_out_course set ended_at = :at where id = :id")
                .param("id", course)
                .param("at", Stamp.of(at))
                .update();
    }

    /** @param since null where somebody may hear of it again */
    void unheard(long course, @Nullable Instant since) {
        jdbc.sql("update call_out_course set unheard = :since where id = :id")
                .param("id", course)
                .param("since", Stamp.of(since))
                .update();
    }

    /** Cases of which all who can be told were told, and nobody took it then; the first first. */
    List<Long> unheard() {
        return jdbc.sql(
                        """
                        select case_id from call_out_course where ended_at is null and unheard is not null
                         group by case_id order by min(unheard)""")
                .query(Long.class)
                .list();
    }
}
