package app.morvet.journey;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;

/** The PostgreSQL that the tests were started with. */
final class Databases {
    static final String PASSWORD = needed("MORVET_TEST_PG_PASSWORD");
    private static final String PG = needed("MORVET_TEST_PG");

    private Databases() {}

    private static String needed(String name) {
        var value = System.getenv(name);
        if (value == null) throw new IllegalStateException(name + " is not set: run the tests with ./morvet test");
        return value;
    }

    static String url(String name) {
        return "jdbc:postgresql://" + PG + "/" + name;
    }

    static Connection connect(String name) throws SQLException {
        return DriverManager.getConnection(url(name), "morvet", PASSWORD);
    }

    static void run(String sql) throws SQLException {
        run("postgres", sql);
    }

    static void run(String name, String sql) throws SQLException {
        try (var connection = connect(name);
                var statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    static boolean has(String name) throws SQLException {
        try (var connection = connect("postgres");
                var asked = connection.prepareStatement("select 1 from pg_database where datname = ?")) {
            asked.setString(1, name);
            try (var rows = asked.executeQuery()) {
                return rows.next();
            }
        }
    }
}
