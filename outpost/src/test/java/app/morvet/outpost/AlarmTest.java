package app.morvet.outpost;

import static org.assertj.core.api.Assertions.assertThat;

import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Who is told by mail that Morvet is away, when, and when it is back. */
class AlarmTest {
    @TempDir
    Path folder;

    private final AtomicReference<Instant> now = new AtomicReference<>(Instant.parse("2027-03-18T02:38:00Z"));
    private final GreenMail mail = new GreenMail(new ServerSetup(0, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));

    @BeforeEach
    void open() {
        mail.start();
    }

    @AfterEach
    void close() {
        mail.stop();
    }

    private Alarm alarm(String more) throws Exception {
        var file = folder.resolve("outpost.yaml");
        Files.writeString(
                file,
                "morvet: http://morvet.example\nname: quay-03\nkey: k\nspool: %s\nwatcher: {after: 2 min, from: quay-03@sundrava.example, to: [quays@sundrava.example], %s}\n"
                        .formatted(folder, more));
        var clock = new Clock() {
            @Override
            public Instant instant() {
                return now.get();
            }

            @Override
            public java.time.ZoneId getZone() {
                return ZoneOffset.UTC;
            }

            @Override
            public Clock withZone(java.time.ZoneId zone) {
                return this;
            }
        };
        return new Alarm(OwnFile.read(file, Map.of()), folder, clock);
    }

    private void later(Duration span) {
        now.updateAndGet(it -> it.plus(span));
    }

    private String subjects() throws Exception {
        var all = new StringBuilder();
        for (var one : mail.getReceivedMessages()) all.append(one.getSubject()).append('\n');
        return all.toString();
    }

    @Test
    void itIsToldOnceThatItIsAwayAndOnceThatItIsBack() throws Exception {
        var alarm = alarm("mail: \"127.0.0.1:" + mail.getSmtp().getPort() + "\"");
        alarm.answered();
        later(Duration.ofSeconds(119));
        alarm.silent("nobody listens");
        assertThat(subjects()).isEmpty();
        later(Duration.ofSeconds(2));
        alarm.silent("nobody listens");
        later(Duration.ofMinutes(10));
        alarm.silent("nobody listens");
        assertThat(subjects())
                .isEqualTo(
                        "Morvet at http://morvet.example has not answered the outpost quay-03 for 2 min 1 s: nobody listens\n");
        assertThat(mail.getReceivedMessages()[0].getAllRecipients()[0]).hasToString("quays@sundrava.example");
        alarm.answered();
        alarm.answered();
        assertThat(subjects())
                .contains("Morvet answers again at http://morvet.example, after 12 min")
                .hasLineCount(2);
        later(Duration.ofMinutes(3));
        alarm.silent("again");
        assertThat(subjects()).as("a second time it is told again").hasLineCount(3);
    }

    @Test
    void whoCouldNotBeToldIsTriedAgainHalfAMinuteLater() throws Exception {
        int port = mail.getSmtp().getPort();
        mail.stop();
        var alarm = alarm("mail: \"127.0.0.1:" + port + "\", call: \"http://127.0.0.1:1/told\"");
        later(Duration.ofMinutes(3));
        alarm.silent("nobody listens");
        var again = new GreenMail(new ServerSetup(port, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));
        again.start();
        try {
            later(Duration.ofSeconds(29));
            alarm.silent("nobody listens");
            assertThat(again.getReceivedMessages()).isEmpty();
            later(Duration.ofSeconds(2));
            alarm.silent("nobody listens");
            assertThat(again.getReceivedMessages()).hasSize(1);
        } finally {
            again.stop();
        }
    }

    @Test
    void whoNamesNobodyTellsNobody() throws Exception {
        Files.writeString(folder.resolve("outpost.yaml"), "morvet: http://morvet.example\nname: a\nkey: k\n");
        var alarm = new Alarm(OwnFile.read(folder.resolve("outpost.yaml"), Map.of()), folder, Clock.systemUTC());
        alarm.silent("x");
        alarm.answered();
        assertThat(subjects()).isEmpty();
    }
}
