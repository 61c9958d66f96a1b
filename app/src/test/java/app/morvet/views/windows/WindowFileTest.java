package app.morvet.views.windows;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.alerting.windows.Windows;
import app.morvet.ground.base.YamlFile;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Windows as a file: read twice it changes nothing, and what is wrong is told by its line. */
class WindowFileTest extends MorvetTest {
    @Autowired
    Windows windows;

    @Autowired
    private WindowFile file;

    private final String mark = "wf" + UUID.randomUUID().toString().substring(0, 8);

    @BeforeEach
    void somebody() {
        setUpOnce();
    }

    private String text() {
        return """
                windows:
                  - name: %1$s firmware
                    over: {name: %1$s, onIt: true}
                    effect: pause
                    jobs: not expected
                    again: every 2 weeks on Tuesday from 2027-03-02 at 22:40
                    lasting: 50 min
                    until: 2099-06-01
                    skipped: ['2099-03-17T22:40']
                    moved:
                      '2099-03-31T22:40': 2099-04-01T06:00 to 2099-04-01T07:00
                    quiet: true
                    tell: 1 day
                    reason: new firmware
                  - name: %1$s once
                    over: {application: freight, kind: host, tier: 1}
                    from: 2099-05-01T10:00
                    to: 2099-05-01T12:00
                """
                .formatted(mark);
    }

    @Test
    void whatIsWrittenOutIsReadInWithoutChangingAnything() throws Exception {
        var lead = loggedIn("lead");
        assertThat(lead.post("/windows/file", "text=" + encoded(text())).body())
                .contains("2 windows change, 0 stay the same", "pause checks for " + mark);
        lead.post("/windows/file/apply", "text=" + encoded(text()));
        assertThat(file.read(text())).isEqualTo(new YamlFile.Read(List.of(), 2, List.of()));
        var out = lead.get("/windows/file/windows.yaml").body();
        assertThat(out).contains("name: " + mark + " firmware", "2099-04-01T06:00 to 2099-04-01T07:00");
        assertThat(file.read(out).changes()).isEmpty();
        // How long before its teams are told is all that is different.
        assertThat(file.read(text().replace("tell: 1 day", "tell: 2 h")).changes())
                .singleElement()
                .satisfies(change -> {
                    assertThat(change.before())
                            .contains("Its teams are told 1 day before, and when it begins and ends.");
                    assertThat(change.after()).contains("Its teams are told 2 h before");
                });
        assertThat(file.read(text().replace("tell: 1 day", "tell: soon")).faults())
                .singleElement()
                .satisfies(fault -> assertThat(fault.toString()).contains("is not a duration"));
        assertThat(file.read(out).faults()).isEmpty();
        assertThat(file.read(text().replace("50 min", "55 min")).changes())
                .extracting(YamlFile.Change::name)
                .containsExactly(mark + " firmware");
        assertThat(loggedIn("analyst")
                        .post("/windows/file/apply", "text=" + encoded(text()))
                        .statusCode())
                .isEqualTo(403);
        assertThat(lead.get("/windows/file/windows.schema.json").body()).contains("Windows of Morvet");
    }

    /** What is meant by a clock elsewhere is meant so after it was written out and read in again. */
    @Test
    void theClockByWhichAWindowIsMeantGoesWithIt() {
        var elsewhere = text().replace("    until: 2099-06-01", "    until: 2099-06-01\n    zone: America/New_York")
                .replace("    to: 2099-05-01T12:00", "    to: 2099-05-01T12:00\n    zone: UTC");
        assertThat(file.read(elsewhere).faults()).isEmpty();
        file.apply(elsewhere, person("lead"));
        assertThat(windows.all().stream()
                        .filter(one -> one.window().name().equals(mark + " once"))
                        .map(one -> one.window().plan().first()))
                .containsExactly(Instant.parse("2099-05-01T10:00:00Z"));
        var out = file.write();
        assertThat(out).contains("zone: America/New_York", "zone: UTC", "2099-04-01T06:00 to 2099-04-01T07:00");
        assertThat(file.read(out).changes()).isEmpty();
        assertThat(file.read(text()).changes()).as("by the clock of the house").hasSize(2);
        assertThat(file.read(elsewhere.replace("New_York", "Newport")).faults())
                .singleElement()
                .satisfies(fault -> assertThat(fault.toString()).contains("is no zone such as Europe/Helsinki"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "effect: pause | effect: mute | 4 | \"effect\" is hold, pause or none.",
                "jobs: not expected | jobs: never | 5 | \"jobs\" is \"as ever\" or \"not expected\".",
                "at 22:40 | at 25:40 | 2 | \"25:40\" is no time of day.",
                "until: 2099-06-01 | until: soon | 8 | \"soon\" is no day such as 2027-03-02.",
                "tier: 1 | tier: one | 16 | A tier is 1, 2, 3 or 4.",
                "to: 2099-05-01T12:00 | to: 2099-05-01T09:00 | 15 | A window must end after it has begun, by a minute at least.",
                "reason: new | reasn: new | 14 | \"reasn\" is not known here",
            })
    void whatIsWrongIsToldByItsLine(String part, String instead, int line, String says) {
        assertThat(file.read(text().replace(part, instead)).faults())
                .singleElement()
                .satisfies(fault -> {
                    assertThat(fault.words()).contains(says.split("\" is not known")[0]);
                    assertThat(fault.line()).isEqualTo(line);
                });
    }
}
