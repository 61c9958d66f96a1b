package app.morvet.work.cases;

import app.morvet.ground.access.People;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.page.Logged;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What became of cases, for the log of the shift; what machines measured of them meanwhile is not told. */
@Component
class LoggedCases implements Logged {
    /** What a case was opened for, which stays so; its headline is that of today, also beside what was done long ago. */
    private static final String ABOUT = "coalesce(opened.words, c.headline)";

    private static final String FIRST =
            """
            left join lateral (select f.words from case_entry f where f.case_id = c.id and f.kind = 'alert' order by f.at, f.id limit 1)
              as opened on true""";

    private final JdbcClient jdbc;
    private final People people;

    LoggedCases(JdbcClient jdbc, People people) {
        this.jdbc = jdbc;
        this.people = people;
    }

    @Override
    public List<Line> logged(Instant from, Instant to, String words, int most) {
        var names = people.names();
        return jdbc.sql(
                        """
                        select * from (
                          (select c.opened_at as at, null::bigint as person_id, 'opened' as words, %1$s as about, c.id
                             from work_case c %2$s
                            where c.opened_at >= :from and c.opened_at < :to and %1$s ilike :words
                            order by c.opened_at desc limit :most)
                          union all
                          (select e.at, e.person_id, e.words, %1$s as about, c.id
                             from case_entry e join work_case c on c.id = e.case_id %2$s
                            where e.at >= :from and e.at < :to and (e.person_id is not null or e.kind = 'reopened')
                              and (e.words ilike :words or %1$s ilike :words)
                            order by e.at desc limit :most)) as lines
                         order by at desc limit :most"""
                                .formatted(ABOUT, FIRST))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("words", Logged.anywhere(words))
                .param("most", most)
                .query((row, number) -> {
                    var person = row.getObject("person_id", Long.class);
                    return new Line(
                            Stamp.in(row, "at"),
                            person == null ? "" : names.getOrDefault(person, "somebody"),
                            "case",
                            row.getString("about") + ": " + row.getString("words"),
                            "/cases/" + row.getLong("id"));
                })
                .list();
    }
}
