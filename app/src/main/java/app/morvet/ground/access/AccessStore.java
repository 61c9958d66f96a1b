package app.morvet.ground.access;

import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of people, keys and the audit record. */
@Repository
class AccessStore {
    record WithPassword(Person person, String passwordHash) {}

    private final JdbcClient jdbc;

    AccessStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static Person person(ResultSet row) throws SQLException {
        return new Person(
                row.getLong("id"), row.getString("login"), row.getString("name"), Role.valueOf(row.getString("role")));
    }

    Optional<WithPassword> byLogin(String login) {
        return jdbc.sql("select id, login, name, role, password_hash from person where login = :login")
                .param("login", login)
                .query((row, number) -> new WithPassword(person(row), row.getString("password_hash")))
                .optional();
    }

    List<Person> people() {
        return jdbc.sql("select id, login, name, role from person order by name")
                .query((row, number) -> person(row))
                .list();
    }

    Optional<Person> person(long id) {
        return jdbc.sql("select id, login, name, role from person where id = :id")
                .param("id", id)
                .query((row, number) -> person(row))
                .optional();
    }

    void add(String login, String name, Role role, String passwordHash) {
        jdbc.sql("insert into person (login, name, role, password_hash) values (:login, :name, :role, :hash)")
                .param("login", login)
                .param("name", name)
                .param("role", role.name())
                .param("hash", passwordHash)
                .update();
    }

    /** A person as they are now, and how often their password was changed. */
    record Current(Person person, int passwordVersion) {}

    Optional<Current> current(long id) {
        return jdbc.sql("select id, login, name, role, password_version from person where id = :id")
                .param("id", id)
                .query((row, number) -> new Current(person(row), row.getInt("password_version")))
                .optional();
    }

    boolean knowsDevice(String login, byte[] hash, Instant since) {
        return jdbc.sql(
                        """
                        select exists (select 1 from known_device d join person p on p.id = d.person_id
                                        where d.token_hash = :hash and p.login = :login and d.last_used >= :since)""")
                .param("hash", hash)
                .param("login", login)
                .param("since", Stamp.of(since))
                .query(Boolean.class)
                .single();
    }

    /** Keeps a device, and forgets those that were not used for long. */
    void keepDevice(long person, byte[] hash, Instant at, Instant before) {
        jdbc.sql(
                        """
                        insert into known_device (token_hash, person_id, last_used) values (:hash, :person, :at)
                            on conflict (token_hash) do update set last_used = excluded.last_used""")
                .param("hash", hash)
                .param("person", person)
                .param("at", Stamp.of(at))
                .update();
        jdbc.sql("delete from known_device where last_used < :before")
                .param("before", Stamp.of(before))
                .update();
    }

    void addKey(String name, long feed, byte[] hash, Instant at) {
        jdbc.sql("insert into intake_key (name, feed_id, key_hash, made_at) values (:name, :feed, :hash, :at)")
                .param("name", name)
                .param("feed", feed)
                .param("hash", hash)
                .param("at", Stamp.of(at))
                .update();
    }

    Optional<Long> feedOfKey(byte[] hash) {
        return jdbc.sql("select feed_id from intake_key where key_hash = :hash and revoked_at is null")
                .param("hash", hash)
                .query(Long.class)
                .optional();
    }

    List<IntakeKeys.Key> keys() {
        return jdbc.sql(
                        """
                        select k.id, k.name, f.name as feed, k.made_at, k.revoked_at
                          from intake_key k
                          join feed f on f.id = k.feed_id
                         order by k.revoked_at is not null, k.name""")
                .query((row, number) -> new IntakeKeys.Key(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getString("feed"),
                        Stamp.in(row, "made_at"),
                        Stamp.orNull(row, "revoked_at")))
                .list();
    }

    int revokeKey(long id, Instant at) {
        return jdbc.sql("update intake_key set revoked_at = :at where id = :id and revoked_at is null")
                .param("id", id)
                .param("at", Stamp.of(at))
                .update();
    }

    void addAudit(
            Instant at,
            @Nullable Long person,
            String what,
            String subject,
            @Nullable String before,
            @Nullable String after) {
        jdbc.sql(
                        """
                        insert into audit_entry (at, person_id, what, subject, before, after)
                        values (:at, :person, :what, :subject, :before, :after)""")
                .param("at", Stamp.of(at))
                .param("person", person)
                .param("what", what)
                .param("subject", subject)
                .param("before", before)
                .param("after", after)
                .update();
    }
}
