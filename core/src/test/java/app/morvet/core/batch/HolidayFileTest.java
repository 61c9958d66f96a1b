package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;

/** Holidays from iCalendar, as programs and people write it. */
class HolidayFileTest {
    private static final LocalDate FROM = LocalDate.of(2026, 1, 1);
    private static final LocalDate TO = LocalDate.of(2029, 1, 1);

    private static String calendar(String... events) {
        return "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//test//EN\r\n" + String.join("", events)
                + "END:VCALENDAR\r\n";
    }

    private static String event(String id, String words, String... lines) {
        return "BEGIN:VEVENT\r\nUID:" + id + "\r\nDTSTAMP:20250101T000000Z\r\n" + String.join("\r\n", lines)
                + "\r\nSUMMARY:" + words + "\r\nEND:VEVENT\r\n";
    }

    private static HolidayFile.Reading read(String text) {
        return HolidayFile.read("Ferries", text, FROM, TO);
    }

    private static void days(String text, String... days) {
        assertThat(read(text).calendar().holidays().keySet())
                .containsExactlyElementsOf(
                        Arrays.stream(days).map(LocalDate::parse).toList());
    }

    @Test
    void anAllDayEventIsAHolidayOnEachOfItsDaysAndARecurringOneInEachYear() {
        var text = calendar(
                event("1", "New Year", "DTSTART;VALUE=DATE:20250101", "RRULE:FREQ=YEARLY"),
                event("2", "Harbour feast", "DTSTART;VALUE=DATE:20260403", "DTEND;VALUE=DATE:20260407"),
                event("3", "Regatta", "DTSTART;VALUE=DATE:20270610", "DURATION:P2D"));
        days(
                text,
                "2026-01-01",
                "2026-04-03",
                "2026-04-04",
                "2026-04-05",
                "2026-04-06",
                "2027-01-01",
                "2027-06-10",
                "2027-06-11",
                "2028-01-01");
        var calendar = read(text).calendar();
        assertThat(read(HolidayFile.write(calendar)).calendar()).isEqualTo(calendar);
    }

    @Test
    void anEventWithATimeOfDayIsNoHolidayAndIsNamed() {
        var text = calendar(
                event("1", "Crew dinner", "DTSTART:20260612T180000Z", "DTEND:20260612T210000Z"),
                event("2", "Harbour Day", "DTSTART;VALUE=DATE:20260621"));
        days(text, "2026-06-21");
        assertThat(read(text).leftOut()).isEqualTo(List.of("Crew dinner"));
    }

    @Test
    void whatWasCancelledIsNoHolidayAndWhatWasMovedIsOneOnItsNewDayOnly() {
        days(
                calendar(
                        event("1", "Founding Day", "DTSTART;VALUE=DATE:20251206", "RRULE:FREQ=YEARLY"),
                        event("1", "Founding Day", "RECURRENCE-ID;VALUE=DATE:20261206", "DTSTART;VALUE=DATE:20261207"),
                        event(
                                "1",
                                "Founding Day",
                                "RECURRENCE-ID;VALUE=DATE:20271206",
                                "DTSTART;VALUE=DATE:20271206",
                                "STATUS:CANCELLED"),
                        event("2", "Strike", "DTSTART;VALUE=DATE:20260301", "STATUS:CANCELLED"),
                        event(
                                "3",
                                "Feast",
                                "DTSTART;VALUE=DATE:20251225",
                                "RRULE:FREQ=YEARLY",
                                "EXDATE;VALUE=DATE:20261225")),
                "2026-12-07",
                "2027-12-25",
                "2028-12-06",
                "2028-12-25");
    }

    @Test
    void whatChangesFromOneOccurrenceOnChangesAllLaterOnes() {
        days(
                calendar(
                        event("1", "Regatta", "DTSTART;VALUE=DATE:20260610", "RRULE:FREQ=YEARLY"),
                        event(
                                "1",
                                "Regatta",
                                "RECURRENCE-ID;VALUE=DATE;RANGE=THISANDFUTURE:20270610",
                                "DTSTART;VALUE=DATE:20270612")),
                "2026-06-10",
                "2027-06-12",
                "2028-06-12");
    }

    @Test
    void linesMayEndAsTheyLikeAndBeFoldedAndBlank() {
        var text = "\uFEFF"
                + calendar(event("1", "Harbour Day", "DTSTART;VALUE=DATE:20260621"))
                        .replace("SUMMARY:Harbour Day", "SUMMARY:Har\r\n bour Day")
                        .replace("UID:1", "UID:1\r\n\r\n")
                        .replace("\r\n", "\n");
        assertThat(read(text).calendar().holidays())
                .containsOnly(java.util.Map.entry(LocalDate.of(2026, 6, 21), "Harbour Day"));
        days(text.replace("\n", "\r"), "2026-06-21");
        days(text.replace(";VALUE=DATE", ""), "2026-06-21");
    }

    @Test
    void aDayThatIsNoneIsRefusedWithItsLine() {
        assertThatThrownBy(() -> read(calendar(event("1", "x", "DTSTART;VALUE=DATE:20260230"))))
                .hasMessage("line 7: 20260230 is no day of the calendar");
        assertThatThrownBy(() -> read(
                        calendar(event("1", "x", "DTSTART;VALUE=DATE:20260201", "RRULE:FREQ=DAILY;UNTIL=20260431"))))
                .hasMessageContaining("20260431 is no day");
    }

    @Test
    void allCalendarsOfAFileAreRead() {
        days(
                calendar(event("1", "a", "DTSTART;VALUE=DATE:20260102"))
                        + calendar(event("1", "b", "DTSTART;VALUE=DATE:20260103")),
                "2026-01-02",
                "2026-01-03");
    }

    /** Every second week on Sunday and Monday: which Monday goes with which Sunday hangs on where a week begins. */
    @Test
    void aWeekBeginsOnMondayWhereverMorvetRunsUnlessTheFileSaysOtherwise() {
        var rule = "RRULE:FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=SU,MO";
        var text = calendar(event("1", "x", "DTSTART;VALUE=DATE:20260301", rule));
        var before = Locale.getDefault();
        try {
            for (var locale : List.of(Locale.US, Locale.forLanguageTag("fi-FI"), Locale.forLanguageTag("ar-EG"))) {
                Locale.setDefault(locale);
                days(text, "2026-03-01", "2026-03-09", "2026-03-15", "2026-03-23");
                days(text.replace(rule, rule + ";WKST=SU"), "2026-03-01", "2026-03-02", "2026-03-15", "2026-03-16");
            }
        } finally {
            Locale.setDefault(before);
        }
    }

    @Test
    void whatIsNoCalendarIsSaidInWords() {
        assertThatThrownBy(() -> read(calendar(event("1", "Harbour feast", "STATUS:CONFIRMED"))))
                .hasMessage("\"Harbour feast\" has no DTSTART");
        assertThatThrownBy(() -> read(calendar(event("1", "x", "DTSTART;VALUE=DATE:20260102", "RRULE:FREQ=NEVER"))))
                .isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> read("hello")).hasMessageContaining("line 1 stands outside of a calendar");
        assertThatThrownBy(() -> read("")).hasMessageContaining("it is empty");
        assertThatThrownBy(() -> read("BEGIN:VCALENDAR\n")).hasMessageContaining("has no END:VCALENDAR");
        assertThatThrownBy(() ->
                        read(calendar(event("1", "x", "DTSTART;VALUE=DATE:20260102", "DTEND;VALUE=DATE:20990101"))))
                .hasMessageContaining("longer than a year");
    }
}
