package app.morvet.ground.access;

import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.Collection;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of second factors. */
@Repository
class SecondFactorStore {
    /** @param secret sealed */
    record Factor(String secret, boolean confirmed, long lastStep) {}

    private final JdbcClient jdbc;

    SecondFactorStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    Optional<Factor> of(long person) {
        return jdbc.sql("select * from second_factor where person_id = :person")
                .param("person", person)
                .query((row, number) -> new Factor(
                        row.getString("secret"), row.getObject("confirmed_at") != null, row.getLong("last_step")))
                .optional();
    }

    /** A new one, in the place of one that was never confirmed. */
    void begin(long person, String secret, Instant at) {
        jdbc.sql(
                        """
                        insert into second_factor (person_id, secret, made_at) values (:person, :secret, :at)
                        on conflict (person_id) do update set secret = excluded.secret, made_at = excluded.made_at
                         where second_factor.confirmed_at is null""")
                .param("person", person)
                .param("secret", secret)
                .param("at", Stamp.of(at))
                .update();
    }

    void confirm(long person, Instant at) {
        jdbc.sql("update second_factor set confirmed_at = :at where person_id = :person")
                .param("person", person)
                .param("at", Stamp.of(at))
                .update();
    }

    void sealedAnew(long person, String secret) {
        jdbc.sql("update second_factor set secret = :secret where person_id = :person")
                .param("person", person)
                .param("secret", secret)
                .update();
    }

    /** Takes the code of a step of time; false where it, or a later one, was taken before. */
    boolean take(long person, long step) {
        return jdbc.sql("update second_factor set last_step = :step where person_id = :person and last_step < :step")
                        .param("person", person)
                        .param("step", step)
                        .update()
                == 1;
    }

    void addRecovery(long person, Collection<byte[]> hashes) {
        jdbc.sql("delete from recovery_code where person_id = :person")
                .param("person", person)
                .update();
        for (var hash : hashes)
            jdbc.sql("insert into recovery_code (person_id, code_hash) values (:person, :hash)")
                    .param("person", person)
                    .param("hash", hash)
                    .update();
    }

    /** Takes a code of those for the day on which the telephone is lost; each is good once. */
    boolean takeRecovery(long person, byte[] hash) {
        return jdbc.sql("delete from recovery_code where person_id = :person and code_hash = :hash")
                        .param("person", person)
                        .param("hash", hash)
                        .update()
                == 1;
    }

    long recoveryLeft(long person) {
        return jdbc.sql("select count(*) from recovery_code where person_id = :person")
                .param("person", person)
                .query(Long.class)
                .single();
    }

    boolean remove(long person) {
        return jdbc.sql("delete from second_factor where person_id = :person")
                        .param("person", person)
                        .update()
                == 1;
    }
}
