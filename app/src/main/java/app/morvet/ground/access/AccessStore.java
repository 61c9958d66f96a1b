package app.morvet.ground.access;

import app.morvet.ground.base.Remembered;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.nodes.Notices;
import app.morvet.ground.page.Logged;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of people, keys and the audit record. */
@Repository
class AccessStore {
    record WithPassword(Person person, String passwordHash) {}

    private final JdbcClient jdbc;
    private final Remembered<Map<Long, String>> names = new Remembered<>(this::readNames, kept -> true);

    AccessStore(JdbcClient jdbc, Notices notices) {
        this.jdbc = jdbc;
        notices.hear("people", none -> names.forget());
    }

    /** What everybody is called, by id; also those who are switched off by now. */
    Map<Long, String> names() {
        return names.get();
    }

    private Map<Long, String> readNames() {
        var found = new HashMap<Long, String>();
        jdbc.sql("select id, name from person").query(row -> {
            found.put(row.getLong("id"), row.getString("name"));
        });
        return Map.copyOf(found);
    }

    private static Person person(ResultSet row) throws SQLException {
        return new Person(
                row.getLong("id"), row.getString("login"), row.getString("name"), Role.valueOf(row.getString("role")));
    }

    Optional<WithPassword> byLogin(String login) {
        return jdbc.sql(
                        "select id, login, name, role, password_hash from person where login = :login and active and password_hash <> ''")
                .param("login", login)
                .query((row, number) -> new WithPassword(person(row), row.getString("password_hash")))
                .optional();
    }

    List<Person> people() {
        return jdbc.sql("select id, login, name, role from person where active and role <> 'MEMBER' order by name")
                .query((row, number) -> person(row))
                .list();
    }

    Optional<String> zone(long person) {
        return jdbc.sql("select zone from person where id = :id and zone is not null")
                .param("id", person)
                .query(String.class)
                .optional();
    }

    void setZone(long person, @Nullable String zone) {
        jdbc.sql("update person set zone = :zone where id = :id")
                .param("id", person)
                .param("zone", zone)
                .update();
    }

    Optional<Person> person(long id) {
        return jdbc.sql("select id, login, name, role from person where id = :id")
                .param("id", id)
                .query((row, number) -> person(row))
                .optional();
    }

    private static People.Card card(ResultSet row, int number) throws SQLException {
        return new People.Card(person(row), row.getString("mail"), row.getString("phone"), row.getBoolean("active"));
    }

    /** Also those who are switched off, at the end. */
    List<People.Card> cards() {
        return jdbc.sql("select * from person order by not active, name, id")
                .query(AccessStore::card)
                .list();
    }

    Optional<People.Card> card(long id) {
        return jdbc.sql("select * from person where id = :id")
                .param("id", id)
                .query(AccessStore::card)
                .optional();
    }

    Optional<People.Card> fromElsewhere(String id) {
        return jdbc.sql("select * from person where open_id = :id")
                .param("id", id)
                .query(AccessStore::card)
                .optional();
    }

    /** Whoever comes from elsewhere by this id is this person from now on; false where another does already. */
    boolean bind(long person, String id) {
        return jdbc.sql("update person set open_id = :id where id = :person and open_id is null")
                        .param("person", person)
                        .param("id", id)
                        .update()
                == 1;
    }

    boolean isTaken(String login) {
        return jdbc.sql("select exists (select 1 from person where login = :login)")
                .param("login", login)
                .query(Boolean.class)
                .single();
    }

    /** @param passwordHash empty for who has no log-in */
    long add(String login, String name, Role role, String mail, String phone, String passwordHash) {
        long id = jdbc.sql(
                        """
                        insert into person (login, name, role, mail, phone, password_hash) values (:login, :name, :role, :mail, :phone, :hash)
                        returning id""")
                .param("login", login)
                .param("name", name)
                .param("role", role.name())
                .param("mail", mail)
                .param("phone", phone)
                .param("hash", passwordHash)
                .query(Long.class)
                .single();
        names.forget();
        return id;
    }

    void change(People.Card one) {
        jdbc.sql(
                        "update person set name = :name, role = :role, mail = :mail, phone = :phone, active = :active where id = :id")
                .param("id", one.person().id())
                .param("name", one.person().name())
                .param("role", one.person().role().name())
                .param("mail", one.mail())
                .param("phone", one.phone())
                .param("active", one.active())
                .update();
        names.forget();
    }

    void setPassword(long id, String hash) {
        jdbc.sql("update person set password_hash = :hash where id = :id")
                .param("id", id)
                .param("hash", hash)
                .update();
    }

    Optional<String> passwordHash(long id) {
        return jdbc.sql("select password_hash from person where id = :id")
                .param("id", id)
                .query(String.class)
                .optional();
    }

    /** Admins who can log in. */
    long admins() {
        return jdbc.sql("select count(*) from person where active and role = 'ADMIN'")
                .query(Long.class)
                .single();
    }

    /** A person as they are now, and how often their password was changed. */
    record Current(Person person, int passwordVersion) {}

    Optional<Current> current(long id) {
        return jdbc.sql(
                        "select id, login, name, role, password_version from person where id = :id and active and password_hash <> ''")
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

    /** What was changed in a span, the latest first. */
    List<Logged.Line> audited(Instant from, Instant to, String pattern, int most) {
        return jdbc.sql(
                        """
                        select a.at, p.name, a.what, a.subject from audit_entry a left join person p on p.id = a.person_id
                         where a.at >= :from and a.at < :to and (a.what ilike :words or a.subject ilike :words)
                         order by a.at desc limit :most""")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("words", pattern)
                .param("most", most)
                .query((row, number) -> new Logged.Line(
                        Stamp.in(row, "at"),
                        row.getString("name") == null ? "" : row.getString("name"),
                        "change",
                        row.getString("what") + ": " + row.getString("subject"),
                        ""))
                .list();
    }

    /** How often somebody changed a rule or a guard since an instant. */
    long rulesChanged(Instant since) {
        return jdbc.sql(
                        "select count(*) from audit_entry where at >= :since and (what like 'guard %' or what like '%rule%')")
                .param("since", Stamp.of(since))
                .query(Long.class)
                .single();
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
