package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;
import java.util.Locale;

/**
 * The first value that a statement finds in a PostgreSQL database, within a transaction that may only read.
 *
 * @param expectation of that value, as of the place {@code $.value}
 */
public record Sql(String name, int port, String database, String statement, Expectation expectation, Duration patience)
        implements Target {
    public static final Kind KIND = new Kind(
            "sql",
            "database",
            false,
            "ask database {database} on {host} at port {port} and expect a value {relation} {value}",
            List.of(
                    Kind.Field.of("host", "Host", "wide", "", ""),
                    Kind.Field.of("port", "Port", "short", "5432", ""),
                    Kind.Field.of("database", "Database", "short", "", ""),
                    Kind.Field.choice("relation", "Relation", "<=", ">=", "=", "!=", "matches", "is there"),
                    Kind.Field.of("value", "Value", "short", "", "40, or \"open\""),
                    Kind.Field.of(
                            "statement", "Statement; its first value counts", "lines", "", "select count(*) from …"),
                    Kind.Field.of("patience", "Longest time", "short", "10 s", "")),
            fields -> new Sql(
                    fields.text("host"),
                    fields.whole("port"),
                    fields.text("database"),
                    fields.text("statement"),
                    fields.read(
                            "value",
                            value -> Expectation.read(("$.value " + fields.text("relation") + " " + value).strip())
                                    .getFirst(),
                            new Expectation.Text("", true)),
                    fields.span("patience")));

    public Sql {
        Limits.host(name, port);
        Limits.bearable(patience);
        if (!database.matches("[A-Za-z0-9_.-]{1,63}"))
            throw new IllegalArgumentException("\"" + database + "\" is not the name of a database");
        if (statement.isBlank() || statement.length() > 5000)
            throw new IllegalArgumentException("a statement has 1 to 5,000 characters");
        if (statement.strip().replaceAll(";$", "").contains(";"))
            throw new IllegalArgumentException("one statement and no more, without a semicolon in it");
        var first = statement.strip().toLowerCase(Locale.ROOT);
        if (!first.matches("(?s)(select|with|table|values|show)\\b.*"))
            throw new IllegalArgumentException("a statement reads: it begins with select, with, table, values or show");
    }

    @Override
    public List<String> hosts() {
        return List.of(Limits.host(name, port));
    }

    @Override
    public String words() {
        return "ask %s on %s:%d \"%s\" and expect %s"
                .formatted(
                        database,
                        name,
                        port,
                        statement.replaceAll("\\s+", " "),
                        expectation.words().replace("$.value", "a value"));
    }
}
