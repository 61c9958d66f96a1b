package app.morvet.core.checks;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Each kind of check: what is filled into its sentence, what that means, and what it cannot mean. */
class KindsTest {
    private static Map<String, String> fields(String text) {
        var fields = new HashMap<String, String>();
        for (var one : text.split("\\s*;\\s*")) {
            var part = one.split("=", 2);
            if (part.length == 2) fields.put(part[0].strip(), part[1].replace("\\n", "\n"));
        }
        return fields;
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            textBlock =
                    """
                    http | url=https://fares.example/v1; within=800 ms; expected=$.status = "open"\\nno text "error" | call https://fares.example/v1 and expect 200 within 800 ms with $.status = "open" and no text "error"
                    http | url=https://fares.example/in; method=POST; body={}; takes=token from $.token; url2=https://fares.example/me/{token}; codes2=200-299 | send POST to https://fares.example/in and expect 200, then call https://fares.example/me/{token} and expect 200-299
                    http | url=http://fares.example/; proxy=gate.example:3128 | call http://fares.example/ and expect 200, through gate.example:3128
                    page | url=https://fares.example/prices; part=#prices | look at the text of https://fares.example/prices, of it #prices and expect it to be as before
                    port | host=quay-03; port=22; firstLine=SSH-2.0 | reach port 22 of quay-03 and expect "SSH-2.0" in its first line
                    certificate | host=fares.example | look at the certificate of fares.example:443 and expect 21 days left
                    certificate | host=fares.example; trusted=signed by somebody known; days=7 | look at the certificate of fares.example:443 and expect 7 days left, signed by somebody known
                    certificate-file | path=/etc/ledger/cert.pem; days=30 | look at the certificate in /etc/ledger/cert.pem and expect 30 days left
                    sql | host=db.example; database=ledger; statement=select count(*) from queue; value=40 | ask ledger on db.example:5432 "select count(*) from queue" and expect a value <= 40
                    command | command=ledger-health; arguments=depth=full; exit=0, 3; expected=no text "ERROR" | run ledger-health with depth=full for 30 s at most and expect exit code 0 or 3 with no text "ERROR"
                    service | service=ledger-post.service | look at the service ledger-post.service and expect it to be running
                    process | pattern=java .*ledger; port=8080 | count the processes whose command line matches java .*ledger and expect at least 1, one of them at port 8080
                    process | pattern=cron; most=1 | count the processes whose command line matches cron and expect 1 to 1
                    file | path=/srv/out/*.csv; age=2 h; least=1 kB; most=20 MB; count=100 | look at /srv/out/*.csv and expect something to be there, at most 2 h old, at least 1 kB, at most 20 MB, at most 100 files
                    file | path=/srv/stop; there=nothing to be there | look at /srv/stop and expect nothing to be there
                    file | path=/etc/ledger.conf; same=unchanged | look at /etc/ledger.conf and expect something to be there, unchanged
                    log | path=/var/log/gate.log; pattern=ERROR; most=5 | count the lines added to /var/log/gate.log that match ERROR and expect 5 at most
                    """)
    void eachReadsAsASentence(String kind, String typed, String sentence) {
        assertThat(Look.of(kind, fields(typed)).words()).isEqualTo(sentence);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            textBlock =
                    """
                    http | url=ftp://fares.example | url | must be http
                    http | url=fares.example | url | must be http
                    http | url=https://a:b@fares.example | url | no name and password
                    http | url=https://fares example | url | is not an address
                    http | url=https://{host}/ | url | nothing is carried into it
                    http | url=https://a.example; url2=https://a.example/{token} | method | nothing is carried as {token}
                    http | url=https://a.example; codes=20 | codes | is no code of an answer
                    http | url=https://a.example; takes=token $.t | takes | carries nothing
                    http | url=https://a.example; expected2=x; url2=https://a.example; codes2=7 | codes2 | is no code
                    http | url=https://a.example; patience=2 min | method | 100 ms to 60 s
                    http | url=https://a.example; trust=no pem | method | are written in PEM
                    port | host=quay 3; port=22 | host | is not the name of a host
                    port | host=quay-03; port=99999 | host | a port is 1 to 65535
                    port | host=quay-03; port=x | port | is not a whole number
                    certificate | host=a.example; days=9999 | host | days left are 0 to 3650
                    certificate-file | path=etc/cert.pem | path | must be a whole path
                    certificate-file | path=/etc/../shadow | path | must not go up
                    sql | host=db; database=l; statement=delete from queue; value=1 | host | it begins with select
                    sql | host=db; database=l d; statement=select 1; value=1 | host | is not the name of a database
                    sql | host=db; database=l; statement=select 1; value= | value | is no expectation
                    command | command=/bin/sh | command | is called by letters
                    command | command=health; longest=1 h | command | runs 1 s to 10 min
                    command | command=health; arguments=--all | arguments | is no argument
                    command | command=health; exit=zero | exit | is no exit code
                    service | service=-x | service | is called by letters
                    process | pattern=( | pattern | cannot be read
                    process | pattern=x; least=3; most=2 | pattern | is more than
                    file | path=relative | path | must be a whole path
                    file | path=/a; least=many | least | is no size
                    log | path=/a; pattern=( | pattern | cannot be read
                    log | path=/a | path | say which lines
                    """)
    void whatCannotBeMeantIsSaidAtItsField(String kind, String typed, String field, String why) {
        var read = Kinds.byKey(kind).read(fields(typed));
        assertThat(read.target()).isNull();
        assertThat(read.errors()).containsKey(field);
        assertThat(read.errors().get(field)).contains(why);
        assertThatThrownBy(() -> Look.of(kind, fields(typed))).hasMessageContaining(why);
    }

    @Test
    void oneStatementAndNoMore() {
        var fields = Map.of("host", "db", "database", "l", "value", "1", "statement", "select 1; drop table queue");
        assertThatThrownBy(() -> Look.of("sql", fields)).hasMessageContaining("one statement and no more");
        assertThat(Look.of("sql", Map.of("host", "db", "database", "l", "value", "1", "statement", "select 1;"))
                        .words())
                .contains("select 1;");
    }

    static List<Kind> kinds() {
        return Kinds.ALL;
    }

    @ParameterizedTest
    @MethodSource("kinds")
    void theHolesOfASentenceAreItsFields(Kind kind) {
        var shown = new java.util.ArrayList<String>();
        kind.pieces().forEach(piece -> {
            if (piece.field() != null) shown.add(piece.field().name());
        });
        kind.below().forEach(field -> shown.add(field.name()));
        assertThat(shown)
                .containsExactlyInAnyOrderElementsOf(
                        kind.fields().stream().map(Kind.Field::name).toList());
        assertThat(Kinds.byKey(kind.key())).isSameAs(kind);
    }

    @Test
    void whatIsOfAnotherKindIsLeftAway() {
        var look = Look.of("port", Map.of("host", "quay-03", "port", "22", "url", "https://x", "firstLine", " "));
        assertThat(look.fields()).containsOnlyKeys("host", "port");
        assertThatThrownBy(() -> Look.of("ping", Map.of())).hasMessageContaining("those are http, page, port");
    }

    @Test
    void whatIsCarriedIsSaidAndWhatIsNotStays() {
        assertThat(WebCall.filled("/me/{token}?{other}", Map.of("token", "a$1")))
                .isEqualTo("/me/a$1?{other}");
        var step = new WebCall.Step(
                "GET", "https://a.example", "", false, List.of(), Map.of("token", "$.token", "none", "$.none"));
        assertThat(step.taken(new Answer(200, "{\"token\": 17}", Duration.ZERO)))
                .isEqualTo(Map.of("token", "17"));
        assertThat(step.taken(new Answer(200, "<html>", Duration.ZERO))).isEmpty();
        assertThat(((WebCall) Look.of("http", Map.of("url", "https://a.example:8443/x"))
                                .target())
                        .hosts())
                .containsExactly("a.example:8443");
        assertThat(((WebCall) Look.of("http", Map.of("url", "http://a.example", "proxy", "gate:3128"))
                                .target())
                        .hosts())
                .containsExactly("a.example:80", "gate:3128");
    }

    @Test
    void whatComesOfARun() {
        var port = new Port("quay-03", 22, "SSH-2.0", Duration.ofSeconds(3));
        assertThat(Result.of(port.expectations(), new Answer(0, "SSH-2.0-harbour", Duration.ZERO))
                        .passed())
                .isTrue();
        var wrong = Result.of(port.expectations(), new Answer(0, "220 mail", Duration.ZERO));
        assertThat(wrong.state()).isEqualTo("failed");
        assertThat(wrong.why()).isEqualTo("expected text \"SSH-2.0\", it does not stand there");
        assertThat(Result.none(Duration.ZERO, "nobody listens there").why()).isEqualTo("nobody listens there");
        assertThat(Result.changed(Duration.ZERO, "the text", "new: closed").why())
                .isEqualTo("expected the text as before, it differs");
        assertThat(new Command("x", Map.of(), List.of(0, 3), List.of(), Duration.ofSeconds(3))
                        .verdict(1)
                        .found())
                .isEqualTo("it ended with 1");
    }

    @Test
    void linesAreCountedByTheirNamedPart() {
        var log = new LogLines("/var/log/gate", "\" (?P<code>[45]\\d\\d)( |$)", -1, Duration.ofSeconds(3));
        assertThat(log.part()).isEqualTo("code");
        assertThat(log.counted(List.of(
                        "GET / HTTP/1.1\" 200",
                        "GET /a HTTP/1.1\" 404",
                        "GET /b HTTP/1.1\" 404",
                        "POST /c HTTP/1.1\" 503")))
                .isEqualTo(Map.of("404", 2, "503", 1));
        var any = new LogLines("/var/log/gate", "ERROR", -1, Duration.ofSeconds(3));
        assertThat(any.counted(List.of("ERROR a", "fine", "an ERROR"))).isEqualTo(Map.of("", 2));
        var many = new LogLines("/var/log/gate", "user (?P<who>\\w+)", -1, Duration.ofSeconds(3));
        var lines = java.util.stream.IntStream.range(0, 200)
                .mapToObj(i -> "user u" + i)
                .toList();
        assertThat(many.counted(lines)).hasSize(LogLines.MOST_WORDS + 1).containsEntry(LogLines.OTHERS, 150);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    1 | 500  | 30  |
                    0 | 0    |     | expected something there, nothing is there
                    1 | 500  | 90  | expected at most 1 min old, the newest is 1 min 30 s old
                    1 | 50   | 30  | expected at least 100 B, it is 50 B
                    1 | 5000 | 30  | expected at most 1 kB, it is 5 kB
                    4 | 500  | 30  | expected at most 3 files, there are 4
                    """)
    void aFileIsHeldAgainstWhatIsExpected(int files, long bytes, Integer age, String why) {
        var now = Instant.parse("2027-03-18T02:00:00Z");
        var look = new FileLook("/srv/out", true, Duration.ofMinutes(1), 100, 1000, 3, false, Duration.ofSeconds(3));
        var found = new FileLook.Found(files, bytes, age == null ? null : now.minusSeconds(age), "");
        assertThat(Result.of(look.verdicts(found, now), Duration.ZERO, "").why())
                .isEqualTo(why == null ? "" : why);
        var none = new FileLook("/srv/stop", false, null, 0, -1, -1, false, Duration.ofSeconds(3));
        assertThat(none.verdicts(found, now).getFirst().met()).isEqualTo(files == 0);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    passed, passed, passed       | 2 | passed
                    passed, failed, passed       | 2 | passed
                    passed, failed, failed       | 2 | failed
                    no answer, failed, passed    | 2 | no answer
                    failed, failed, no answer    | 2 | failed
                    failed                       | 2 | failed
                    passed                       | 2 | passed
                    changed, passed              | 1 | changed
                    passed, no answer            | 1 | no answer
                    """)
    void severalAgree(String states, int agree, String together) {
        assertThat(Agreement.of(List.of(states.split("\\s*,\\s*")), agree)).isEqualTo(together);
    }

    @Test
    void nobodyAgreesOnNothing() {
        assertThatThrownBy(() -> Agreement.of(List.of(), 1)).hasMessage("nobody was heard");
    }
}
