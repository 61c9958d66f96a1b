package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

/** What stays of an error text, and what never changes it. */
class FingerprintProperties {
    private static final List<String> TEXTS = List.of(
            "Connect to partner-gw-2.sundrava.example:8443 failed: connection refused\n  after 12 ms, try 3 of 3\n  at hub.deliver.HttpSender.open(HttpSender:212)",
            "Unknown harbour code 'FIXQV' in /manifest/call/harbour\n  validating MF-2041 against harbour list of 14 codes",
            "Receiver answered 409: duplicate key value violates \"uq_business_key\"\n  key (ref)=(BK-77120) already exists, row 418223",
            "2026-11-24T06:42:10.113Z ERROR [pool-4-thread-17] order 9917a: deadlock found; victim 0x7f3aa0",
            "Yhteys katkesi 30000 ms jälkeen (yritys 3/3)",
            "Ungültiger Betrag „12,50“ in Zeile 14, Spalte 7",
            "ERR 17: état inattendu «fermé» pour le navire 12",
            "java.net.ConnectException: timeout after 30s\n\tat a.b.C.d(C.java:41)\n\tat a.b.E.f(E.java:9)",
            "Traceback (most recent call last):\n  File \"load.py\", line 14, in run\nValueError: bad row 12");

    @Provide
    Arbitrary<String> texts() {
        return Arbitraries.of(TEXTS);
    }

    @Property(tries = 300)
    void changingOnlyIdsAndTimesNeverChangesIt(@ForAll("texts") String text, @ForAll long seed) {
        var random = new Random(seed);
        var one = text + "\nrequest " + new UUID(random.nextLong(), random.nextLong()) + " at 2026-01-02 03:04:05";
        var other = text + "\nrequest " + new UUID(random.nextLong(), random.nextLong())
                + " at 1999-11-%02d 23:59:%02d".formatted(1 + random.nextInt(28), random.nextInt(60));
        assertThat(Fingerprint.of(other).key()).isEqualTo(Fingerprint.of(one).key());
    }

    @Property(tries = 300)
    void whatIsTakenOutPutBackInGivesTheText(@ForAll("texts") String text) {
        var print = Fingerprint.of(text);
        var back = print.skeleton();
        for (var value : print.values())
            back = back.replaceFirst("⟨[a-z]+⟩", java.util.regex.Matcher.quoteReplacement(value));
        assertThat(back)
                .isEqualTo(text.lines()
                        .map(line -> line.strip().replaceAll("\\s+", " "))
                        .reduce((a, b) -> a + "\n" + b)
                        .orElseThrow());
    }

    @Test
    void differentCausesStayApart() {
        assertThat(TEXTS.stream().map(text -> Fingerprint.of(text).key()).distinct())
                .hasSize(TEXTS.size());
    }

    @Test
    void aDeployThatShiftsLinesAndLengthensTheTraceChangesNothing() {
        var trace = new StringBuilder("No answer from partner within 30000 ms");
        for (int i = 0; i < 9; i++)
            trace.append("\n  at hub.flow.Step")
                    .append("ABCDEFGHI".charAt(i))
                    .append(".run(Step:")
                    .append(i * 7 + 10)
                    .append(')');
        var longer = trace.toString().replaceAll(":\\d+\\)", ":4711)")
                + "\n  at hub.deeper.Still.run(Still:3)\n  ... 41 more";
        assertThat(Fingerprint.of(longer).key())
                .isEqualTo(Fingerprint.of(trace.toString()).key());
    }

    @Test
    void hostileTextsAreReadInAMoment() {
        var start = System.nanoTime();
        for (var text : List.of(
                "'".repeat(60_000),
                "a.".repeat(30_000),
                "1:".repeat(30_000),
                "\"a".repeat(30_000),
                "x1".repeat(30_000),
                "@".repeat(60_000),
                "\n".repeat(60_000),
                "\"a".repeat(8191) + "@",
                "a".repeat(8191) + "@",
                "a.".repeat(4000) + "@",
                "1 234 ".repeat(1500),
                "{\"a\":".repeat(1500),
                "<a>".repeat(2700),
                "<a ".repeat(2700),
                "0a:".repeat(2700),
                "a-1".repeat(2700),
                "A1".repeat(4000),
                "a/b+".repeat(2000),
                "1m".repeat(4000),
                "1 ms ".repeat(1600),
                ")=(".repeat(2700),
                "\\\"".repeat(4000),
                "‘a".repeat(4000),
                "{\"a\":[1,".repeat(1000),
                "{'".repeat(4000),
                "a=b ".repeat(2000),
                "a= = ".repeat(1600),
                "x (1)\n".repeat(1200),
                "(Aa, ".repeat(1600),
                "user a.".repeat(1100),
                "vessel Aa ".repeat(800),
                "a_1.csv.".repeat(1000),
                "\\\\a".repeat(2700)))
            assertThat(Fingerprint.of(text).skeleton().length()).isLessThanOrEqualTo(2000);
        // Not a measure of speed: a pattern that backtracks would need hours.
        assertThat((System.nanoTime() - start) / 1_000_000_000).isLessThan(20);
    }

    private record Labelled(String cause, String text) {}

    /**
     * A labelled set: texts of many systems and languages, four of each cause: each family holds all texts of one cause and
     * none of another.
     */
    @Test
    void onALabelledSetCausesStayTogetherAndApart() throws Exception {
        List<Labelled> set;
        try (var file = java.util.Objects.requireNonNull(getClass().getResourceAsStream("errors.tsv"))) {
            set = new String(file.readAllBytes(), java.nio.charset.StandardCharsets.UTF_8)
                    .lines()
                    .map(line -> line.split("\t", 2))
                    .map(parts ->
                            new Labelled(parts[0], parts[1].replace("\\n", "\n").replace("\\\\", "\\")))
                    .toList();
        }
        assertThat(set.size()).isGreaterThanOrEqualTo(300);
        var families = new HashMap<String, Set<String>>();
        var causes = new HashMap<String, Set<String>>();
        for (var one : set) {
            var key = Fingerprint.of(one.text()).key();
            families.computeIfAbsent(key, none -> new TreeSet<>()).add(one.cause());
            causes.computeIfAbsent(one.cause(), none -> new TreeSet<>()).add(key);
        }
        var merged = families.values().stream().filter(all -> all.size() > 1).toList();
        var split = causes.entrySet().stream()
                .filter(cause -> cause.getValue().size() > 1)
                .map(Map.Entry::getKey)
                .toList();
        assertThat(merged).as("causes that fall together").isEmpty();
        assertThat(split).as("causes that fall apart").isEmpty();
    }
}
