package app.morvet;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.UUID;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;

/** A database of its own, for what needs no application. */
public final class FreshDatabase {
    private static final String SERVER = "jdbc:postgresql://" + System.getenv("MORVET_TEST_PG") + "/";
    private static final String PASSWORD = System.getenv("MORVET_TEST_PG_PASSWORD");

    private FreshDatabase() {}

    /** With all tables, and nothing in them. */
    public static DataSource make() throws SQLException {
        var source = empty();
        Flyway.configure().dataSource(source).load().migrate();
        return source;
    }

    /** Without any table. */
    public static DataSource empty() throws SQLException {
        var name = "morvet_" + UUID.randomUUID().toString().substring(0, 8);
        try (var connection = DriverManager.getConnection(SERVER + "postgres", "morvet", PASSWORD);
                var statement = connection.createStatement()) {
            statement.execute("create database " + name);
        }
        return source(name);
    }

    /** Connections are kept for a while: to log in takes longer than most of what is asked. */
    private static DataSource source(String name) {
        var settings = new HikariConfig();
        settings.setJdbcUrl(SERVER + name);
        settings.setUsername("morvet");
        settings.setPassword(PASSWORD);
        settings.setMinimumIdle(0);
        settings.setIdleTimeout(10_000);
        return new HikariDataSource(settings);
    }
}
