package app.morvet.ground.duty;

import app.morvet.core.duty.Rota;
import app.morvet.core.duty.Turns;
import app.morvet.core.guard.Hours;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of rotas and of who is in which team. */
@Repository
class RotaStore {
    private final JdbcClient jdbc;

    RotaStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Kept(long team, ZoneId zone, int version) {}

    /**
     * The rotas of some teams that have one, by team.
     *
     * @param since what is over before that is left out
     */
    Map<Long, Rotas.Standing> find(Collection<Long> teams, Instant since) {
        var ids = teams.toArray(Long[]::new);
        var turns = new HashMap<Long, List<Rotas.LineTurns>>();
        jdbc.sql(
                        "select t.*, r.zone from rota_turns t join rota r using (team_id) where team_id = any(:teams::bigint[]) order by line, from_day")
                .param("teams", ids)
                .query(row -> {
                    turns.computeIfAbsent(row.getLong("team_id"), it -> new ArrayList<>())
                            .add(turns(row, ZoneId.of(row.getString("zone"))));
                });
        var changes = new HashMap<Long, List<Rotas.Said>>();
        jdbc.sql("select * from rota_change where team_id = any(:teams::bigint[]) and to_at > :since order by id")
                .param("teams", ids)
                .param("since", Stamp.of(since))
                .query(row -> {
                    changes.computeIfAbsent(row.getLong("team_id"), it -> new ArrayList<>())
                            .add(change(row));
                });
        var found = new HashMap<Long, Rotas.Standing>();
        jdbc.sql("select team_id, zone, version from rota where team_id = any(:teams::bigint[])")
                .param("teams", ids)
                .query((row, number) ->
                        new Kept(row.getLong("team_id"), ZoneId.of(row.getString("zone")), row.getInt("version")))
                .list()
                .forEach(kept -> found.put(
                        kept.team(),
                        standing(
                                kept,
                                turns.getOrDefault(kept.team(), List.of()),
                                changes.getOrDefault(kept.team(), List.of()))));
        return found;
    }

    private static Rotas.Standing standing(Kept kept, List<Rotas.LineTurns> turns, List<Rotas.Said> changes) {
        var lines = new ArrayList<List<Turns>>();
        for (var one : turns) {
            while (lines.size() <= one.line()) lines.add(new ArrayList<>());
            lines.get(one.line()).add(one.turns());
        }
        return new Rotas.Standing(
                new Rota(
                        kept.zone(),
                        lines,
                        changes.stream().map(Rotas.Said::change).toList()),
                turns,
                changes,
                kept.version());
    }

    private static Rotas.LineTurns turns(ResultSet row, ZoneId zone) throws SQLException {
        var days = row.getArray("days");
        var hours = days == null
                ? null
                : new Hours(
                        Arrays.stream((Integer[]) days.getArray())
                                .map(DayOfWeek::of)
                                .collect(Collectors.toSet()),
                        row.getObject("hours_from", LocalTime.class),
                        row.getObject("hours_to", LocalTime.class),
                        zone);
        return new Rotas.LineTurns(
                row.getLong("id"),
                row.getInt("line"),
                new Turns(
                        row.getObject("from_day", LocalDate.class),
                        row.getObject("at", LocalTime.class),
                        Turns.Every.valueOf(row.getString("every")),
                        row.getInt("count"),
                        List.of((Long[]) row.getArray("people").getArray()),
                        hours));
    }

    private static Rotas.Said change(ResultSet row) throws SQLException {
        long person = row.getLong("person_id");
        var from = Stamp.in(row, "from_at");
        var to = Stamp.in(row, "to_at");
        return new Rotas.Said(
                row.getLong("id"),
                row.getString("kind").equals("AWAY")
                        ? new Rota.Change.Away(person, from, to)
                        : new Rota.Change.Covers(person, row.getInt("line"), from, to));
    }

    /** Counts a change; false where it is another version by now. 0 is none yet. */
    boolean changed(long team, int version, ZoneId zone) {
        return jdbc.sql(
                                """
                        insert into rota as r (team_id, zone) select :team, :zone
                         where :version = 0 or exists (select 1 from rota where team_id = :team)
                            on conflict (team_id) do update set zone = excluded.zone, version = r.version + 1 where r.version = :version""")
                        .param("team", team)
                        .param("zone", zone.getId())
                        .param("version", version)
                        .update()
                > 0;
    }

    /** Sets how turns are taken in a line from a day on. */
    void set(long team, int line, Turns turns) {
        var hours = turns.hours();
        jdbc.sql(
                        """
                        insert into rota_turns (team_id, line, from_day, at, every, count, people, days, hours_from, hours_to)
                        values (:team, :line, :from, :at, :every, :count, :people::bigint[], :days::int[], :hoursFrom, :hoursTo)
                            on conflict (team_id, line, from_day) do update
                           set at = excluded.at, every = excluded.every, count = excluded.count, people = excluded.people, days = excluded.days,
                               hours_from = excluded.hours_from, hours_to = excluded.hours_to""")
                .param("team", team)
                .param("line", line)
                .param("from", turns.from())
                .param("at", turns.at())
                .param("every", turns.every().name())
                .param("count", turns.count())
                .param("people", turns.people().toArray(Long[]::new))
                .param(
                        "days",
                        hours == null
                                ? null
                                : hours.days().stream()
                                        .map(DayOfWeek::getValue)
                                        .sorted()
                                        .toArray(Integer[]::new))
                .param("hoursFrom", hours == null ? null : hours.from())
                .param("hoursTo", hours == null ? null : hours.to())
                .update();
    }

    int drop(long team, long turns) {
        return jdbc.sql("delete from rota_turns where id = :id and team_id = :team")
                .param("id", turns)
                .param("team", team)
                .update();
    }

    void add(long team, Rota.Change change, @Nullable Long by) {
        jdbc.sql(
                        """
                        insert into rota_change (team_id, kind, person_id, line, from_at, to_at, by_id)
                        values (:team, :kind, :person, :line, :from, :to, :by)""")
                .param("team", team)
                .param("kind", change instanceof Rota.Change.Away ? "AWAY" : "COVERS")
                .param(
                        "person",
                        switch (change) {
                            case Rota.Change.Away one -> one.person();
                            case Rota.Change.Covers one -> one.person();
                        })
                .param("line", change instanceof Rota.Change.Covers one ? one.line() : 0)
                .param("from", Stamp.of(change.from()))
                .param("to", Stamp.of(change.to()))
                .param("by", by)
                .update();
    }

    int takeBack(long team, long change) {
        return jdbc.sql("delete from rota_change where id = :id and team_id = :team")
                .param("id", change)
                .param("team", team)
                .update();
    }

    List<Long> members(long team) {
        return jdbc.sql("select person_id from team_member where team_id = :team")
                .param("team", team)
                .query(Long.class)
                .list();
    }

    List<Long> teamsOf(long person) {
        return jdbc.sql("select team_id from team_member where person_id = :person order by team_id")
                .param("person", person)
                .query(Long.class)
                .list();
    }

    void join(long team, long person) {
        jdbc.sql("insert into team_member (team_id, person_id) values (:team, :person) on conflict do nothing")
                .param("team", team)
                .param("person", person)
                .update();
    }

    int leave(long team, long person) {
        return jdbc.sql("delete from team_member where team_id = :team and person_id = :person")
                .param("team", team)
                .param("person", person)
                .update();
    }
}
