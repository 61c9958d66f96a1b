package app.morvet;

import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.UUID;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.postgresql.ds.PGSimpleDataSource;

/** A database of its own, for what needs no application. */
public final class FreshDatabase {
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
        var server = "jdbc:postgresql://" + System.getenv("MORVET_TEST_PG") + "/";
        var password = System.getenv("MORVET_TEST_PG_PASSWORD");
        try (var connection = DriverManager.getConnection(server + "postgres", "morvet", password);
                var statement = connection.createStatement()) {
            statement.execute("create database " + name);
        }
        var source = new PGSimpleDataSource();
        source.setUrl(server + name);
        source.setUser("morvet");
        source.setPassword(password);
        return source;
    }
}
