package app.morvet.ground.base;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Instants on their way into and out of {@code timestamptz} columns. */
public final class Stamp {
    private Stamp() {}

    public static @Nullable Timestamp of(@Nullable Instant at) {
        return at == null ? null : Timestamp.from(at);
    }

    /** The instant in a column that is never null. */
    public static Instant in(ResultSet row, String column) throws SQLException {
        return row.getTimestamp(column).toInstant();
    }

    public static @Nullable Instant orNull(ResultSet row, String column) throws SQLException {
        var stamp = row.getTimestamp(column);
        return stamp == null ? null : stamp.toInstant();
    }

    /** Whole minutes of a span that need not be there. */
    public static @Nullable Duration minutesOrNull(ResultSet row, String column) throws SQLException {
        var minutes = row.getObject(column, Integer.class);
        return minutes == null ? null : Duration.ofMinutes(minutes);
    }

    public static @Nullable Integer minutes(@Nullable Duration span) {
        return span == null ? null : (int) span.toMinutes();
    }
}
