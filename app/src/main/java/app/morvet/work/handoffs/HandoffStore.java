package app.morvet.work.handoffs;

import app.morvet.core.handoff.HandoffState;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of handoffs. */
@Repository
class HandoffStore {
    record Attempt(Instant at, boolean delivered, String words) {}

    private final JdbcClient jdbc;

    HandoffStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static Handoff handoff(ResultSet row, int number) throws SQLException {
        return new Handoff(
                row.getObject("id", UUID.class),
                row.getLong("case_id"),
                row.getLong("team_id"),
                row.getLong("connection_id"),
                row.getString("title"),
                row.getString("story"),
                row.getString("body"),
                HandoffState.valueOf(row.getString("state")),
                row.getString("desk_state") == null ? null : HandoffState.valueOf(row.getString("desk_state")),
                row.getString("ticket"),
                row.getString("reason"),
                Stamp.in(row, "made_at"),
                row.getObject("made_by", Long.class),
                Stamp.in(row, "changed_at"),
                Stamp.orNull(row, "first_try"),
                Stamp.orNull(row, "next_try"),
                row.getInt("failures"),
                row.getString("last_error"));
    }

    void add(Handoff handoff) {
        jdbc.sql(
                        """
                        insert into handoff (id, case_id, team_id, connection_id, title, story, body, state, made_at, made_by, changed_at)
                        values (:id, :case, :team, :connection, :title, :story, :body, :state, :at, :by, :at)""")
                .param("id", handoff.id())
                .param("case", handoff.caseId())
                .param("team", handoff.team())
                .param("connection", handoff.connection())
                .param("title", handoff.title())
                .param("story", handoff.story())
                .param("body", handoff.body())
                .param("state", handoff.state().name())
                .param("at", Stamp.of(handoff.madeAt()))
                .param("by", handoff.madeBy())
                .update();
    }

    Optional<Handoff> byId(UUID id) {
        return jdbc.sql("select * from handoff where id = :id")
                .param("id", id)
                .query(HandoffStore::handoff)
                .optional();
    }

    Handoff lock(UUID id) {
        return jdbc.sql("select * from handoff where id = :id for no key update")
                .param("id", id)
                .query(HandoffStore::handoff)
                .single();
    }

    Optional<Handoff> byTicket(long connection, String ticket) {
        return jdbc.sql("select * from handoff where connection_id = :connection and ticket = :ticket")
                .param("connection", connection)
                .param("ticket", ticket)
                .query(HandoffStore::handoff)
                .optional();
    }

    /** The number of the ticket that was made last at a desk. */
    Optional<String> latestTicket(long connection) {
        return jdbc.sql(
                        """
                        select ticket from handoff where connection_id = :connection and ticket <> ''
                         order by changed_at desc limit 1""")
                .param("connection", connection)
                .query(String.class)
                .optional();
    }

    List<Handoff> ofCase(long caseId) {
        return jdbc.sql("select * from handoff where case_id = :case order by made_at desc")
                .param("case", caseId)
                .query(HandoffStore::handoff)
                .list();
    }

    /** @param from how many of the latest are left out */
    List<Handoff> inState(List<HandoffState> states, int from, int size) {
        return jdbc.sql(
                        """
                        select * from handoff where state = any(:states::text[])
                         order by changed_at desc, id offset :from limit :size""")
                .param("from", from)
                .param("states", states.stream().map(Enum::name).toArray(String[]::new))
                .param("size", size)
                .query(HandoffStore::handoff)
                .list();
    }

    long count(HandoffState state, boolean failingOnly) {
        return jdbc.sql("select count(*) from handoff where state = :state and (not :failing or failures > 0)")
                .param("state", state.name())
                .param("failing", failingOnly)
                .query(Long.class)
                .single();
    }

    void tried(UUID id, Instant at, boolean delivered, String words) {
        jdbc.sql("insert into handoff_attempt (handoff_id, at, delivered, words) values (:id, :at, :delivered, :words)")
                .param("id", id)
                .param("at", Stamp.of(at))
                .param("delivered", delivered)
                .param("words", words)
                .update();
    }

    List<Attempt> attempts(UUID id) {
        return jdbc.sql("select * from handoff_attempt where handoff_id = :id order by at desc limit 50")
                .param("id", id)
                .query((row, number) ->
                        new Attempt(Stamp.in(row, "at"), row.getBoolean("delivered"), row.getString("words")))
                .list();
    }

    void failed(UUID id, HandoffState state, Instant at, @Nullable Instant nextTry, String error) {
        jdbc.sql(
                        """
                        update handoff
                           set state = :state, changed_at = :at, first_try = coalesce(first_try, :at), next_try = :next,
                               failures = failures + 1, last_error = :error
                         where id = :id""")
                .param("id", id)
                .param("state", state.name())
                .param("at", Stamp.of(at))
                .param("next", Stamp.of(nextTry))
                .param("error", error)
                .update();
    }

    /** All tries failed, as of a time past. */
    void gaveUp(UUID id, int tries, Instant at, String error) {
        failed(id, HandoffState.GIVEN_UP, at, null, error);
        jdbc.sql("update handoff set failures = :tries where id = :id")
                .param("id", id)
                .param("tries", tries)
                .update();
    }

    /** What the desk said. */
    void moved(UUID id, HandoffState state, String ticket, String reason, Instant at) {
        jdbc.sql(
                        """
                        update handoff
                           set state = :state, desk_state = :state, ticket = :ticket, reason = :reason, changed_at = :at,
                               next_try = null, failures = 0, last_error = ''
                         where id = :id""")
                .param("id", id)
                .param("state", state.name())
                .param("ticket", ticket)
                .param("reason", reason)
                .param("at", Stamp.of(at))
                .update();
    }

    /** What somebody of the team said here. */
    void said(UUID id, HandoffState state, String reason, Instant at) {
        jdbc.sql(
                        """
                        update handoff set desk_state = coalesce(desk_state, state), state = :state, reason = :reason, changed_at = :at
                         where id = :id""")
                .param("id", id)
                .param("state", state.name())
                .param("reason", reason)
                .param("at", Stamp.of(at))
                .update();
    }

    /** What is handed to some teams, the latest first; what they are through with as far back as an instant. */
    List<Handoff> ofTeams(List<Long> teams, Instant doneSince) {
        return jdbc.sql(
                        """
                        select * from handoff
                         where team_id = any(:teams::bigint[])
                           and (state in ('QUEUED', 'SENT', 'ACCEPTED') or changed_at >= :since and state <> 'GIVEN_UP')
                         order by (state in ('QUEUED', 'SENT', 'ACCEPTED')) desc, changed_at desc limit 200""")
                .param("teams", teams.toArray(Long[]::new))
                .param("since", Stamp.of(doneSince))
                .query(HandoffStore::handoff)
                .list();
    }

    void again(UUID id, Instant at) {
        jdbc.sql(
                        "update handoff set state = 'QUEUED', first_try = null, next_try = :at, changed_at = :at where id = :id")
                .param("id", id)
                .param("at", Stamp.of(at))
                .update();
    }

    /** A look at the desk that failed; the state stays, the trouble shows. */
    void lookFailed(UUID id, String error) {
        jdbc.sql("update handoff set failures = failures + 1, last_error = :error where id = :id")
                .param("id", id)
                .param("error", error)
                .update();
    }

    void lookWorked(UUID id) {
        jdbc.sql("update handoff set failures = 0, last_error = '' where id = :id and failures > 0")
                .param("id", id)
                .update();
    }
}
