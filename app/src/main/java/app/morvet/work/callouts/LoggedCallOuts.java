package app.morvet.work.callouts;

import app.morvet.ground.access.People;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.page.Logged;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Whom Morvet called, for the log of the shift. */
@Component
class LoggedCallOuts implements Logged {
    private final JdbcClient jdbc;
    private final People people;

    LoggedCallOuts(JdbcClient jdbc, People people) {
        this.jdbc = jdbc;
        this.people = people;
    }

    @Override
    public List<Line> logged(Instant from, Instant to, String words, int most) {
        var names = people.names();
        return jdbc.sql(
                        """
                        select made_at, person_id, recipient, subject, state, case_id from delivery
                         where made_at >= :from and made_at < :to and about in ('OPENED', 'LATE', 'RETURNED', 'NOT_ACCEPTED', 'UNHEARD')
                           and (subject ilike :words or recipient ilike :words)
                         order by made_at desc limit :most""")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("words", Logged.anywhere(words))
                .param("most", most)
                .query((row, number) -> {
                    var person = row.getObject("person_id", Long.class);
                    var called = person == null ? row.getString("recipient") : names.getOrDefault(person, "somebody");
                    var state = Delivery.State.valueOf(row.getString("state"));
                    return new Line(
                            Stamp.in(row, "made_at"),
                            "",
                            "call-out",
                            "%s was told: %s%s"
                                    .formatted(
                                            called,
                                            row.getString("subject"),
                                            state == Delivery.State.SENT ? "" : " (" + state.words() + ")"),
                            "/cases/" + row.getLong("case_id"));
                })
                .list();
    }
}
