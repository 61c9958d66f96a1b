package app.morvet.core.windows;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Calendars of others, and the very times that they mean. */
class WorkCalendarTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");
    private static final Instant FROM = Instant.parse("2027-03-01T00:00:00Z");

    private static WorkCalendar.Read read(String... lines) {
        return WorkCalendar.read(file(lines), HELSINKI);
    }

    private static String file(String... lines) {
        return "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//test//EN\r\n" + String.join("\r\n", lines)
                + "\r\nEND:VCALENDAR\r\n";
    }

    private static String event(String... lines) {
        return "BEGIN:VEVENT\r\nUID:one\r\nDTSTAMP:20270101T000000Z\r\nSUMMARY:Gate firmware\r\n"
                + String.join("\r\n", lines) + "\r\nEND:VEVENT";
    }

    /** The first times from March 2027 on, in UTC. */
    private static List<String> times(WorkCalendar.Read read, int most) {
        assertThat(read.faults()).isEmpty();
        assertThat(read.work()).hasSize(1);
        return read.work().getFirst().plan().next(FROM, most).stream()
                .map(it -> it.span().from() + " "
                        + Duration.between(it.span().from(), it.span().to()).toMinutes())
                .toList();
    }

    @Test
    void anEventIsOnceInItsZoneOrInOurs() {
        assertThat(times(read(event("DTSTART:20270302T204000Z", "DTEND:20270302T213000Z")), 5))
                .containsExactly("2027-03-02T20:40:00Z 50");
        assertThat(times(read(event("DTSTART;TZID=Europe/Lisbon:20270302T204000", "DURATION:PT50M")), 5))
                .containsExactly("2027-03-02T20:40:00Z 50");
        assertThat(times(read(event("DTSTART:20270302T224000", "DURATION:PT50M")), 5))
                .containsExactly("2027-03-02T20:40:00Z 50");
        assertThat(times(read(event("DTSTART;VALUE=DATE:20270302", "DTEND;VALUE=DATE:20270304")), 5))
                .containsExactly("2027-03-01T22:00:00Z 2880");
        assertThat(times(read(event("DTSTART;VALUE=DATE:20270302")), 5)).containsExactly("2027-03-01T22:00:00Z 1440");
        assertThat(times(read(event("DTSTART:20270302T204000Z", "DURATION:P1W")), 5))
                .containsExactly("2027-03-02T20:40:00Z 10080");
    }

    /** A rule goes by the wall of its zone: right across the change of the clock on 28 March. */
    @Test
    void whatRecursDoesSoByTheWallOfItsZone() {
        assertThat(times(
                        read(event(
                                "DTSTART;TZID=Europe/Helsinki:20270323T224000",
                                "DURATION:PT50M",
                                "RRULE:FREQ=WEEKLY;BYDAY=TU;UNTIL=20270406T194000Z")),
                        9))
                .containsExactly("2027-03-23T20:40:00Z 50", "2027-03-30T19:40:00Z 50", "2027-04-06T19:40:00Z 50");
        assertThat(times(read(event("DTSTART:20270323T204000Z", "DURATION:PT50M", "RRULE:FREQ=WEEKLY;COUNT=2")), 9))
                .containsExactly("2027-03-23T20:40:00Z 50", "2027-03-30T20:40:00Z 50");
        assertThat(times(read(event("DTSTART;VALUE=DATE:20270301", "RRULE:FREQ=MONTHLY;UNTIL=20270501")), 9))
                .containsExactly("2027-02-28T22:00:00Z 1440", "2027-03-31T21:00:00Z 1440", "2027-04-30T21:00:00Z 1440");
    }

    /** What is stored must be read by the next process, too: a zone has a name that everybody knows. */
    @Test
    void aZoneIsKnownByItsName() {
        var lisbon = read(event("DTSTART;TZID=Europe/Lisbon:20270302T204000", "DURATION:PT50M"));
        assertThat(one(lisbon).plan().zone()).isEqualTo(ZoneId.of("Europe/Lisbon"));
        var ours =
                "BEGIN:VTIMEZONE\r\nTZID:Harbour\r\nBEGIN:STANDARD\r\nDTSTART:19961027T040000\r\nRRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=10\r\n"
                        + "TZOFFSETFROM:+0300\r\nTZOFFSETTO:+0200\r\nEND:STANDARD\r\nBEGIN:DAYLIGHT\r\nDTSTART:19970330T030000\r\n"
                        + "RRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=3\r\nTZOFFSETFROM:+0200\r\nTZOFFSETTO:+0300\r\nEND:DAYLIGHT\r\nEND:VTIMEZONE";
        var described = read(ours, event("DTSTART;TZID=Harbour:20270330T224000", "DURATION:PT50M"));
        assertThat(described.faults()).isEmpty();
        assertThat(one(described).plan().zone()).isEqualTo(HELSINKI);
        assertThat(times(described, 2)).containsExactly("2027-03-30T19:40:00Z 50");
        var strange = ours.replace("+0300", "+0317").replace("+0200", "+0217");
        assertThat(read(strange, event("DTSTART;TZID=Harbour:20270330T224000", "DURATION:PT50M"))
                        .faults())
                .containsExactly(
                        "\"Gate firmware\" is left out: its time zone \"Harbour\" is like none that is known.");
    }

    @Test
    void singleTimesAreLeftOutAddedMovedAndCancelled() {
        var read = read(
                event(
                        "DTSTART;TZID=Europe/Helsinki:20270302T224000",
                        "DURATION:PT50M",
                        "RRULE:FREQ=DAILY;COUNT=5",
                        "EXDATE;TZID=Europe/Helsinki:20270303T224000",
                        "RDATE;TZID=Europe/Helsinki:20270310T080000"),
                event(
                        "RECURRENCE-ID;TZID=Europe/Helsinki:20270304T224000",
                        "DTSTART;TZID=Europe/Helsinki:20270304T120000",
                        "DURATION:PT30M"),
                event(
                        "RECURRENCE-ID:20270305T204000Z",
                        "DTSTART;TZID=Europe/Helsinki:20270305T224000",
                        "DURATION:PT50M",
                        "STATUS:CANCELLED"));
        assertThat(times(read, 9))
                .containsExactly(
                        "2027-03-02T20:40:00Z 50",
                        "2027-03-04T10:00:00Z 30",
                        "2027-03-06T20:40:00Z 50",
                        "2027-03-10T06:00:00Z 50");
    }

    @Test
    void whatIsCancelledHasNoTime() {
        var read = read(event("DTSTART:20270302T204000Z", "DURATION:PT50M", "STATUS:CANCELLED"));
        assertThat(read.work()).singleElement().satisfies(one -> {
            assertThat(one.plan()).isNull();
            assertThat(one.title()).isEqualTo("Gate firmware");
        });
    }

    @Test
    void rulesLookAtTitleTextAndPlace() {
        var read = read(
                event("DTSTART:20270302T204000Z", "DURATION:PT50M", "DESCRIPTION:new\\nswitches", "LOCATION:quay-05"));
        assertThat(read.work().getFirst().words()).isEqualTo("Gate firmware\nnew\nswitches\nquay-05");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "DTSTART:20270302T204000Z | it does not say how long it lasts",
                "DTSTART:20270302T204000Z;DTEND:20270302T204000Z | it does not say how long it lasts",
                "DTSTART:20270302T204000Z;DTEND:20270330T204000Z | it lasts longer than 14 days",
                "DURATION:PT50M | it has no DTSTART",
                "DTSTART:20270302T204000Z;DURATION:PT50M;RRULE:FREQ=HOURLY | a window recurs every day at most; hours are for cron",
            })
    void whatCannotBeTakenIsNamedAndTheRestIsTaken(String lines, String why) {
        var fine =
                "BEGIN:VEVENT\r\nUID:two\r\nDTSTAMP:20270101T000000Z\r\nSUMMARY:Fine\r\nDTSTART:20270302T204000Z\r\nDURATION:PT1H\r\nEND:VEVENT";
        // Within a line of the table, lines of the file stand behind one another.
        var read = read(event(lines.replaceAll(";(?=DT|DUR|RRULE)", "\r\n").split("\r\n")), fine);
        assertThat(read.faults()).containsExactly("\"Gate firmware\" is left out: " + why + ".");
        assertThat(read.work()).extracting(WorkCalendar.Work::title).containsExactly("Fine");
    }

    @Test
    void whatIsNoCalendarIsRefusedAndAHugeOneIsCut() {
        assertThatThrownBy(() -> WorkCalendar.read("<html>sign in</html>", HELSINKI))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("no iCalendar");
        var many = new ArrayList<String>();
        for (int i = 0; i < 2003; i++)
            many.add(event("DTSTART:20270302T204000Z", "DURATION:PT50M").replace("UID:one", "UID:" + i));
        var read = read(many.toArray(String[]::new));
        assertThat(read.work()).hasSize(2000);
        assertThat(read.faults()).containsExactly("It has more than 2,000 events; the rest is left out.");
    }

    /** What we write is read as the same times. */
    @Test
    void ourOwnCalendarIsReadBack() {
        var span = new Plan.Span(Instant.parse("2027-03-28T00:30:00Z"), Instant.parse("2027-03-28T03:00:00Z"));
        var text = WindowIcs.write(
                List.of(new WindowIcs.Event(
                        "a@morvet", "Firmware; new", "all, of it", "http://localhost:7400/windows/1", span)),
                FROM);
        var read = WorkCalendar.read(text, HELSINKI);
        assertThat(read.work()).singleElement().satisfies(one -> {
            assertThat(one.uid()).isEqualTo("a@morvet");
            assertThat(one.title()).isEqualTo("Firmware; new");
            assertThat(one.plan().next(FROM, 2))
                    .extracting(Plan.Occurrence::span)
                    .containsExactly(span);
        });
        assertThat(one(read).plan().zone()).isEqualTo(java.time.ZoneOffset.UTC);
    }

    private static WorkCalendar.Work one(WorkCalendar.Read read) {
        return read.work().getFirst();
    }

    @Test
    void aMovedTimeIsKnownByWhenItWasMeant() {
        var read = read(
                event("DTSTART;TZID=Europe/Helsinki:20270302T224000", "DURATION:PT50M", "RRULE:FREQ=DAILY;COUNT=2"),
                event("RECURRENCE-ID:20270303T204000Z", "DTSTART:20270303T100000Z", "DURATION:PT50M"));
        assertThat(one(read).plan().altered()).containsOnlyKeys(LocalDateTime.parse("2027-03-03T22:40"));
    }
}
