package app.morvet.ground.base;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;

/** Rows on their way into a table by binary COPY, the fastest way into PostgreSQL; a column after the other. */
public final class CopyRows {
    private static final byte[] HEAD = "PGCOPY\n\377\r\n\0\0\0\0\0\0\0\0\0".getBytes(StandardCharsets.ISO_8859_1);
    private static final Instant EPOCH = Instant.parse("2000-01-01T00:00:00Z");

    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream(1 << 16);
    private final DataOutputStream out = new DataOutputStream(bytes);
    private final int columns;

    public CopyRows(int columns) {
        this.columns = columns;
        bytes.writeBytes(HEAD);
    }

    private interface Writing {
        void to(DataOutputStream out) throws IOException;
    }

    private CopyRows write(Writing writing) {
        try {
            writing.to(out);
            return this;
        } catch (IOException never) {
            throw new UncheckedIOException(never);
        }
    }

    public CopyRows row() {
        return write(to -> to.writeShort(columns));
    }

    public CopyRows number(@Nullable Long value) {
        return value == null
                ? nothing()
                : write(to -> {
                    to.writeInt(8);
                    to.writeLong(value);
                });
    }

    public CopyRows small(int value) {
        return write(to -> {
            to.writeInt(4);
            to.writeInt(value);
        });
    }

    public CopyRows real(double value) {
        return write(to -> {
            to.writeInt(8);
            to.writeDouble(value);
        });
    }

    public CopyRows flag(boolean value) {
        return write(to -> {
            to.writeInt(1);
            to.writeBoolean(value);
        });
    }

    public CopyRows time(Instant at) {
        return number(ChronoUnit.MICROS.between(EPOCH, at));
    }

    public CopyRows text(String text) {
        return bytes(text.getBytes(StandardCharsets.UTF_8));
    }

    public CopyRows json(String text) {
        var coded = text.getBytes(StandardCharsets.UTF_8);
        return write(to -> {
            to.writeInt(coded.length + 1);
            to.writeByte(1); // the version of the binary form of jsonb
            to.write(coded);
        });
    }

    public CopyRows bytes(byte @Nullable [] some) {
        return some == null
                ? nothing()
                : write(to -> {
                    to.writeInt(some.length);
                    to.write(some);
                });
    }

    public CopyRows nothing() {
        return write(to -> to.writeInt(-1));
    }

    /** @param statement {@code copy … from stdin (format binary)} */
    public void into(Connection connection, String statement) throws SQLException {
        write(to -> to.writeShort(-1));
        var copy = connection.unwrap(PGConnection.class).getCopyAPI().copyIn(statement);
        var whole = bytes.toByteArray();
        copy.writeToCopy(whole, 0, whole.length);
        copy.endCopy();
    }
}
