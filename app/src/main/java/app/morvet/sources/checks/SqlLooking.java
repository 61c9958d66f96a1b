package app.morvet.sources.checks;

import app.morvet.core.checks.Answer;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Sql;
import app.morvet.ground.base.Outgoing;
import app.morvet.probe.Around;
import app.morvet.probe.Looking;
import app.morvet.probe.Watch;
import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import tools.jackson.databind.json.JsonMapper;

/** Asks a PostgreSQL database for one value, in a transaction that may only read. */
final class SqlLooking implements Looking<Sql> {
    private static final JsonMapper JSON = JsonMapper.shared();

    private final Outgoing outgoing;

    SqlLooking(Outgoing outgoing) {
        this.outgoing = outgoing;
    }

    @Override
    public Class<Sql> of() {
        return Sql.class;
    }

    @Override
    public Result at(Sql target, Around around, Watch watch) throws IOException {
        target.hosts().forEach(outgoing::reach);
        long seconds = Math.max(1, target.patience().toSeconds());
        var settings = new Properties();
        settings.setProperty("user", around.user());
        settings.setProperty("password", around.password());
        settings.setProperty("ApplicationName", "morvet check");
        settings.setProperty("connectTimeout", "" + seconds);
        settings.setProperty("socketTimeout", "" + seconds);
        settings.setProperty("loginTimeout", "" + seconds);
        settings.setProperty("readOnly", "true");
        settings.setProperty(
                "options",
                "-c default_transaction_read_only=on -c statement_timeout="
                        + target.patience().toMillis());
        var url = "jdbc:postgresql://%s:%d/%s".formatted(target.name(), target.port(), target.database());
        try (var connection = new org.postgresql.Driver().connect(url, settings)) {
            if (connection == null) throw new IllegalArgumentException("that is no PostgreSQL");
            var value = value(connection, target);
            if (value == null) return Result.none(watch.took(), "the statement finds nothing");
            var answer = new Answer(0, JSON.writeValueAsString(Map.of("value", value)), watch.took());
            var result = Result.of(List.of(target.expectation()), answer);
            return value instanceof Number number
                    ? result.with(Result.Figure.gauge("check_value", "", number.doubleValue()))
                    : result;
        } catch (SQLException failed) {
            throw new IllegalArgumentException("the database says: " + failed.getMessage(), failed);
        }
    }

    private static @org.jspecify.annotations.Nullable Object value(Connection connection, Sql target)
            throws SQLException {
        connection.setAutoCommit(false);
        try (var statement = connection.prepareStatement(target.statement())) {
            statement.setMaxRows(1);
            try (var rows = statement.executeQuery()) {
                if (!rows.next()) return null;
                var value = rows.getObject(1);
                return value == null || value instanceof Number || value instanceof Boolean ? value : value.toString();
            }
        } finally {
            connection.rollback();
        }
    }
}
