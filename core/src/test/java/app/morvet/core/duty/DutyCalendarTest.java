package app.morvet.core.duty;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.windows.Plan;
import app.morvet.core.windows.WindowIcs;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DutyCalendarTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Instant NOW = Instant.parse("2027-03-18T02:00:00Z");
    private static final Map<Long, String> TEAM =
            Map.of(1L, "Otso Haapala", 2L, "Linnea Kivi", 3L, "Linnea Kivi-Aalto");

    private static String calendar(String... events) {
        var text = new StringBuilder("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//test\r\n");
        for (int i = 0; i < events.length; i++)
            text.append("BEGIN:VEVENT\r\nUID:")
                    .append(i)
                    .append("\r\nDTSTAMP:20270301T000000Z\r\n")
                    .append(events[i].replace("\n", "\r\n"))
                    .append("\r\nEND:VEVENT\r\n");
        return text + "END:VCALENDAR\r\n";
    }

    private static DutyCalendar.Read read(String... events) {
        return DutyCalendar.read(calendar(events), ZONE, TEAM, NOW, NOW.plus(Duration.ofDays(60)));
    }

    private static String event(String title) {
        return "SUMMARY:" + title + "\nDTSTART:20270320T160000Z\nDTEND:20270321T040000Z";
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    Otso Haapala                       | 1 | 0
                    On call: otso haapala (evening)    | 1 | 0
                    Otso Haapala\\, second line of them | 1 | 1
                    Linnea Kivi third line             | 2 | 2
                    Linnea Kivi-Aalto                  | 3 | 0
                    """)
    void whoseNameStandsInATitleCovers(String title, long person, int line) {
        assertThat(read(event(title)).changes())
                .containsExactly(new Rota.Change.Covers(
                        person, line, Instant.parse("2027-03-20T16:00:00Z"), Instant.parse("2027-03-21T04:00:00Z")));
    }

    @ParameterizedTest
    @CsvSource({"Tuomo Salmela", "Otso Haapalanen", "Otso Haapala and Linnea Kivi", "Team dinner"})
    void whatNamesNobodyOrSeveralIsLeftOutAndToldOf(String title) {
        var read = read(event(title), event(title));
        assertThat(read.changes()).isEmpty();
        assertThat(read.leftOut()).containsExactly("\"" + title + "\" names nobody of this team, or several.");
    }

    @Test
    void somebodyIsAway() {
        assertThat(read("SUMMARY:Linnea Kivi away\nDTSTART;VALUE=DATE:20270322\nDTEND;VALUE=DATE:20270324")
                        .changes())
                .containsExactly(new Rota.Change.Away(
                        2, Instant.parse("2027-03-21T22:00:00Z"), Instant.parse("2027-03-23T22:00:00Z")));
    }

    @Test
    void whatRecursIsSaidForEachTimeAndWhatIsOverForNone() {
        var read = read(
                "SUMMARY:Otso Haapala\nDTSTART;TZID=Europe/Helsinki:20270301T180000\nDTEND;TZID=Europe/Helsinki:20270301T230000\n"
                        + "RRULE:FREQ=WEEKLY;UNTIL=20270406T000000Z");
        assertThat(read.changes())
                .extracting(Rota.Change::from)
                .as("Mondays at 18:00, an hour earlier in UTC from the 28th on")
                .containsExactly(
                        Instant.parse("2027-03-22T16:00:00Z"),
                        Instant.parse("2027-03-29T15:00:00Z"),
                        Instant.parse("2027-04-05T15:00:00Z"));
    }

    /** As Morvet itself writes long turns: in parts. */
    @Test
    void whatGoesOnWithoutABreakIsOne() {
        var events = new ArrayList<WindowIcs.Event>();
        for (int day = 0; day < 3; day++)
            events.add(new WindowIcs.Event(
                    "duty-" + day,
                    "Otso Haapala, first line of Freight Systems",
                    "",
                    "http://localhost/",
                    new Plan.Span(NOW.plus(Duration.ofDays(day)), NOW.plus(Duration.ofDays(day + 1)))));
        var read = DutyCalendar.read(WindowIcs.write(events, NOW), ZONE, TEAM, NOW, NOW.plus(Duration.ofDays(60)));
        assertThat(read)
                .isEqualTo(new DutyCalendar.Read(
                        List.of(new Rota.Change.Covers(1, 0, NOW, NOW.plus(Duration.ofDays(3)))), List.of()));
    }

    @Test
    void whatIsNoCalendarIsRefused() {
        assertThatThrownBy(() -> DutyCalendar.read("hello", ZONE, TEAM, NOW, NOW.plusSeconds(60)))
                .isInstanceOf(IllegalArgumentException.class);
    }
}
