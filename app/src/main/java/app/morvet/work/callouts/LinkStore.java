package app.morvet.work.callouts;

import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of the links by which people take cases. */
@Repository
class LinkStore {
    private final JdbcClient jdbc;

    LinkStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    void add(byte[] hash, UUID delivery, Instant at) {
        jdbc.sql("insert into call_out_link (hash, delivery_id, made_at) values (:hash, :delivery, :at)")
                .param("hash", hash)
                .param("delivery", delivery)
                .param("at", Stamp.of(at))
                .update();
    }

    void drop(Instant before) {
        jdbc.sql("delete from call_out_link where made_at < :before")
                .param("before", Stamp.of(before))
                .update();
    }

    /** @param answer {@code TAKEN}, {@code CANNOT}, {@code QUIET}, or null while there is none */
    record Link(UUID delivery, Instant madeAt, @Nullable String answer) {}

    Optional<Link> find(byte[] hash) {
        return jdbc.sql("select * from call_out_link where hash = :hash for no key update")
                .param("hash", hash)
                .query((row, number) -> new Link(
                        row.getObject("delivery_id", UUID.class), Stamp.in(row, "made_at"), row.getString("answer")))
                .optional();
    }

    void answered(byte[] hash, String answer, Instant at) {
        jdbc.sql("update call_out_link set answer = :answer, answered_at = :at where hash = :hash")
                .param("hash", hash)
                .param("answer", answer)
                .param("at", Stamp.of(at))
                .update();
    }
}
