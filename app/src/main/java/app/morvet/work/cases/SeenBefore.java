package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.People;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Settled cases like one: of the same component and the same origins first, then of the same origins elsewhere, then of the same component;
 * how they were settled, by whom, how long they took, and the last that somebody wrote into them.
 */
@Component
@Order(2)
class SeenBefore implements DossierPart {
    private static final Duration BACK = Duration.ofDays(90);
    private static final int SHOWN = 5;
    private static final int LOOKED_AT = 60;
    /** Of each origin: of one that flaps, a case has many. */
    private static final int MOST_HERE = 500;

    private static final int MOST_ANYWHERE = 250;

    record Row(long id, String headline, String at, String how, String by, String took, String note, boolean same) {}

    /** @param usual how most were settled and how long that took; empty where there were too few */
    record Shown(int count, String usual, List<Row> rows) {}

    private record Found(
            long id,
            String headline,
            Instant opened,
            Instant settled,
            SettleReason reason,
            long by,
            String note,
            int like) {}

    private final JdbcClient jdbc;
    private final CaseAlerts caseAlerts;
    private final Alerts alerts;
    private final People people;
    private final Times times;

    SeenBefore(JdbcClient jdbc, CaseAlerts caseAlerts, Alerts alerts, People people, Times times) {
        this.jdbc = jdbc;
        this.caseAlerts = caseAlerts;
        this.alerts = alerts;
        this.people = people;
        this.times = times;
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var found = find(shown);
        if (found.isEmpty()) return Optional.empty();
        var names = people.names();
        var rows = found.stream()
                .limit(SHOWN)
                .map(one -> new Row(
                        one.id(),
                        one.headline(),
                        times.of(one.settled()),
                        one.reason().words(),
                        names.getOrDefault(one.by(), ""),
                        times.lasting(one.opened(), one.settled()),
                        one.note(),
                        one.like() == 0))
                .toList();
        return Optional.of(new Part("seen-parts :: before", new Shown(found.size(), usual(found), rows)));
    }

    /** What most of those that are quite the same were settled as, and the middle of how long they took. */
    private String usual(List<Found> found) {
        var same = found.stream().filter(one -> one.like() == 0).toList();
        if (same.size() < 3) return "";
        var most =
                same.stream().collect(Collectors.groupingBy(Found::reason, Collectors.counting())).entrySet().stream()
                        .max(Map.Entry.comparingByValue())
                        .orElseThrow();
        var took = same.stream()
                .map(one -> Duration.between(one.opened(), one.settled()))
                .sorted()
                .toList();
        var middle = took.get(took.size() / 2);
        return "%d times the same, %d of them %s; half of them took up to %s"
                .formatted(
                        same.size(),
                        most.getValue(),
                        most.getKey().words(),
                        times.lasting(times.now().minus(middle), times.now()));
    }

    /** Alerts that the same raised, here and anywhere. */
    private Set<Long> alike(WorkCase shown) {
        var origins =
                caseAlerts.of(shown.id()).stream().map(Alert::origin).distinct().toList();
        var since = times.now().minus(BACK);
        var alike = new HashSet<>(alerts.idsOn(shown.component(), origins, since, MOST_HERE));
        alike.addAll(alerts.idsOf(origins, since, MOST_ANYWHERE));
        return alike;
    }

    private List<Found> find(WorkCase shown) {
        return jdbc.sql(
                        """
                        with found as (
                            select distinct case_id as id, true as same from case_alert where alert_id = any(:alike::bigint[])
                            union all
                            (select id, false from work_case where component_id = :component and state = 'SETTLED'
                              order by settled_at desc limit :most)),
                        best as (
                            select w.*, min(case when not f.same then 2 when w.component_id = :component then 0 else 1 end) as alike
                              from found f join work_case w using (id)
                             where w.state = 'SETTLED' and w.joined_to is null and w.id <> :id and w.settled_at >= :since
                             group by w.id order by alike, w.settled_at desc limit :most)
                        select w.id, w.headline, w.opened_at, w.settled_at, w.settle_reason, w.alike, last.person_id,
                               coalesce(note.words, '') as note
                          from best w
                          left join lateral (select person_id from case_entry e
                              where e.case_id = w.id and person_id is not null order by at desc, id desc limit 1) last on true
                          left join lateral (select words from case_entry e
                              where e.case_id = w.id and kind = 'note' order by at desc, id desc limit 1) note on true
                         order by w.alike, w.settled_at desc""")
                .param("id", shown.id())
                .param("alike", alike(shown).toArray(Long[]::new))
                .param("component", shown.component())
                .param("since", Stamp.of(times.now().minus(BACK)))
                .param("most", LOOKED_AT)
                .query((row, number) -> new Found(
                        row.getLong("id"),
                        row.getString("headline"),
                        Stamp.in(row, "opened_at"),
                        Stamp.in(row, "settled_at"),
                        SettleReason.valueOf(row.getString("settle_reason")),
                        row.getLong("person_id"),
                        row.getString("note"),
                        row.getInt("alike")))
                .list();
    }
}
