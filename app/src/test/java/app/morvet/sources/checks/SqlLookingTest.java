package app.morvet.sources.checks;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.checks.Look;
import app.morvet.core.checks.Result;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Outgoing;
import app.morvet.probe.Around;
import app.morvet.probe.Prober;
import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** One value of a real database: read, held against what is expected, and never more than read. */
class SqlLookingTest {
    private static final String SERVER = String.valueOf(System.getenv("MORVET_TEST_PG"));
    private static final String PASSWORD = String.valueOf(System.getenv("MORVET_TEST_PG_PASSWORD"));

    private Result ask(Map<String, String> fields, String password) throws InterruptedException {
        var kept = Duration.ofDays(400);
        var settings = new MorvetSettings(
                ZoneId.of("UTC"),
                URI.create("http://localhost"),
                Duration.ZERO,
                null,
                List.of(SERVER),
                "",
                kept,
                kept,
                kept,
                kept);
        var outgoing = new Outgoing(settings);
        var all = new HashMap<>(fields);
        var server = SERVER.split(":");
        all.putIfAbsent("host", server[0]);
        all.putIfAbsent("port", server[1]);
        all.putIfAbsent("database", "postgres");
        all.putIfAbsent("patience", "20 s");
        return Prober.ofNetwork(outgoing::reach, List.of(new SqlLooking(outgoing)))
                .ask(Look.of("sql", all).target(), new Around("", "morvet\n" + password, "", Instant.now()));
    }

    private Result ask(String statement, String relation, String value) throws InterruptedException {
        return ask(Map.of("statement", statement, "relation", relation, "value", value), PASSWORD);
    }

    @Test
    void theFirstValueIsHeldAgainstWhatIsExpected() throws Exception {
        var passed = ask("select 17, 'more' union all select 99, ''", "<=", "40");
        assertThat(passed.why()).isEmpty();
        assertThat(passed.figures()).singleElement().satisfies(one -> {
            assertThat(one.measure()).isEqualTo("check_value");
            assertThat(one.value()).isEqualTo(17);
        });
        assertThat(ask("select 41", "<=", "40").why()).isEqualTo("expected $.value <= 40, it is \"41\"");
        assertThat(ask("values ('open')", "=", "\"open\"").state()).isEqualTo("passed");
        assertThat(ask("select true", "=", "true").state()).isEqualTo("passed");
        assertThat(ask("select 1 where false", "=", "1").why()).isEqualTo("the statement finds nothing");
        assertThat(ask("select null::int", "is there", "").why()).isEqualTo("the statement finds nothing");
    }

    @Test
    void nothingIsWritten() throws Exception {
        assertThat(ask("with x as (insert into pg_temp.none values (1) returning 1) select 1", "=", "1")
                        .why())
                .startsWith("the database says: ");
        assertThat(ask("select setval('pg_catalog.none', 1)", "=", "1").why()).startsWith("the database says: ");
        assertThat(ask("select set_config('transaction_read_only', 'off', false)", "=", "\"on\"")
                        .why())
                .contains("transaction read-write mode must be set before any query");
    }

    @Test
    void whatTakesTooLongOrIsNotAllowedIsTold() throws Exception {
        long start = System.nanoTime();
        var slow =
                Map.of("statement", "select pg_sleep(60)::text", "relation", "=", "value", "\"\"", "patience", "3 s");
        assertThat(ask(slow, PASSWORD).why()).contains("the database says: ");
        assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(Duration.ofSeconds(30));
        assertThat(ask(Map.of("statement", "select 1", "value", "1"), "wrong").why())
                .contains("password authentication failed")
                .doesNotContain(PASSWORD);
        assertThat(ask(Map.of("statement", "select 1", "value", "1", "host", "127.0.0.9", "port", "1"), PASSWORD)
                        .why())
                .startsWith("Morvet may not call 127.0.0.9:1");
    }
}
