package app.morvet.work.cases;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of what became of the cases of some components. */
@Repository
class CasePast {
    private final JdbcClient jdbc;

    CasePast(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** A settled case on a component, with what it was settled as. */
    record Settled(long id, long component, Instant from, Instant to, SettleReason reason) {}

    /** Settled cases of some components that ran in a span. */
    List<Settled> settledOn(Collection<Long> components, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select id, component_id, first_seen, coalesce(over_since, settled_at) as over_at, settle_reason
                          from work_case
                         where state = 'SETTLED' and component_id = any(:components::bigint[])
                           and opened_at < :to and coalesce(over_since, settled_at) >= :from
                         order by opened_at""")
                .param("components", components.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> new Settled(
                        row.getLong("id"),
                        row.getLong("component_id"),
                        Stamp.in(row, "first_seen"),
                        Stamp.in(row, "over_at"),
                        SettleReason.valueOf(row.getString("settle_reason"))))
                .list();
    }

    /** Cases on some components that were not over, or not settled, in a span. */
    List<CaseBook.Lived> during(Collection<Long> components, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select id, headline, severity, first_seen, coalesce(over_since, settled_at) as over_at
                          from work_case
                         where component_id = any(:components::bigint[])
                           and opened_at < :to and coalesce(over_since, settled_at, :to) >= :from
                         order by opened_at desc limit 500""")
                .param("components", components.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> new CaseBook.Lived(
                        row.getLong("id"),
                        row.getString("headline"),
                        Severity.valueOf(row.getString("severity")),
                        Stamp.in(row, "first_seen"),
                        Stamp.orNull(row, "over_at")))
                .list();
    }

    record Since(long opened, long reopened, long settled) {}

    /** How many cases opened, opened again and were settled since an instant. */
    Since since(Instant since) {
        return jdbc.sql(
                        """
                        select (select count(*) from work_case where opened_at >= :since) as opened,
                               (select count(distinct case_id) from case_entry where at >= :since and kind = 'reopened') as reopened,
                               (select count(*) from work_case where state = 'SETTLED' and settled_at >= :since) as settled""")
                .param("since", Stamp.of(since))
                .query((row, number) ->
                        new Since(row.getLong("opened"), row.getLong("reopened"), row.getLong("settled")))
                .single();
    }

    /** What people did to some cases since an instant, as far as it says who has them, in order of time. */
    List<CaseBook.Worked> workOn(Collection<Long> cases, Instant since) {
        return jdbc.sql(
                        """
                        select case_id, at, kind, words from case_entry
                         where case_id = any(:cases::bigint[]) and at >= :since
                           and kind in ('taken', 'given', 'opened', 'reopened', 'quiet', 'woke', 'handed off', 'returned', 'undone')
                           and (person_id is not null or kind in ('quiet', 'woke', 'returned', 'handed off'))
                         order by at, id""")
                .param("cases", cases.toArray(Long[]::new))
                .param("since", Stamp.of(since))
                .query((row, number) -> new CaseBook.Worked(
                        row.getLong("case_id"), Stamp.in(row, "at"), row.getString("kind"), row.getString("words")))
                .list();
    }
}
