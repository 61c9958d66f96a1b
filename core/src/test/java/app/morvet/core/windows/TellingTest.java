package app.morvet.core.windows;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.windows.Telling.Said;
import app.morvet.core.windows.Telling.Told;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What those concerned hear of a window, as it is planned, moved, taken back and lived through. */
class TellingTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Instant NINE = Instant.parse("2027-03-02T07:00:00Z");
    private static final Duration HOUR = Duration.ofHours(1);

    private @Nullable Plan plan;
    private Duration before = HOUR;
    private final Map<LocalDateTime, Told> last = new LinkedHashMap<>();

    /** What is told at an instant, such as "COMES 9:00-10:00". */
    private List<String> at(String time) {
        var now = instant(time);
        var heard = new ArrayList<String>();
        for (var one : Telling.due(plan, before, List.copyOf(last.values()), now)) {
            if (one.said().last()) last.remove(one.meant());
            else last.put(one.meant(), one);
            heard.add("%s %s-%s"
                    .formatted(
                            one.said(),
                            clock(one.span().from()),
                            clock(one.span().to())));
        }
        return heard;
    }

    private static Instant instant(String time) {
        return LocalDateTime.parse("2027-03-02T" + time).atZone(ZONE).toInstant();
    }

    private static String clock(Instant at) {
        var local = at.atZone(ZONE);
        return "%d:%02d".formatted(local.getHour(), local.getMinute());
    }

    private static Plan once(String from, String to) {
        return Plan.once(instant(from), instant(to), ZONE);
    }

    @Test
    void aTimeComesBeginsAndEndsAndEachIsToldOnce() {
        plan = once("09:00", "10:00");
        assertThat(at("07:59")).isEmpty();
        assertThat(at("08:00")).containsExactly("COMES 9:00-10:00");
        assertThat(at("08:30")).isEmpty();
        assertThat(at("09:00")).containsExactly("BEGINS 9:00-10:00");
        assertThat(at("09:59")).isEmpty();
        assertThat(at("10:00")).containsExactly("ENDS 9:00-10:00");
        assertThat(at("10:01")).isEmpty();
    }

    @Test
    void withNoTimeBeforeItIsToldAtItsBegin() {
        plan = once("09:00", "10:00");
        before = Duration.ZERO;
        assertThat(at("08:59")).isEmpty();
        assertThat(at("09:00")).containsExactly("BEGINS 9:00-10:00");
    }

    @Test
    void whoWasToldHearsThatItIsElsewhereHoweverFar() {
        plan = once("09:00", "10:00");
        at("08:10");
        plan = once("15:00", "16:30");
        assertThat(at("08:20")).containsExactly("MOVED 15:00-16:30");
        assertThat(at("14:30")).isEmpty();
        assertThat(at("15:00")).containsExactly("BEGINS 15:00-16:30");
    }

    @Test
    void whoWasToldHearsThatItIsNotToBe() {
        plan = once("09:00", "10:00");
        at("08:10");
        plan = null;
        assertThat(at("08:20")).containsExactly("OFF 9:00-10:00");
        assertThat(at("09:00")).isEmpty();
    }

    @Test
    void whoHeardNothingHearsNothingOfWhatIsTakenBack() {
        plan = once("09:00", "10:00");
        assertThat(at("07:00")).isEmpty();
        plan = null;
        assertThat(at("09:30")).isEmpty();
    }

    @Test
    void whileItIsOnAnotherEndIsToldAndEndingItAtOnce() {
        plan = once("09:00", "10:00");
        at("08:10");
        at("09:05");
        plan = once("09:00", "11:00");
        assertThat(at("09:50")).containsExactly("LASTS 9:00-11:00");
        plan = once("09:00", "09:55");
        assertThat(at("09:55")).containsExactly("ENDS 9:00-9:55");
    }

    @Test
    void whatIsDeletedWhileItIsOnEndsThen() {
        plan = once("09:00", "10:00");
        at("09:05");
        plan = null;
        assertThat(at("09:20")).containsExactly("ENDS 9:00-9:20");
    }

    @Test
    void whatPassedWhileNobodyLookedIsOverForThoseWhoWaitAndNoNewsToOthers() {
        plan = once("09:00", "10:00");
        assertThat(at("11:00")).isEmpty();
        at("08:30");
        assertThat(at("11:00")).containsExactly("ENDS 9:00-10:00");
    }

    /** One left out and one moved of what recurs: each time is known for itself. */
    @Test
    void eachTimeOfWhatRecursIsToldOfForItself() {
        var rhythm = RhythmText.read("cron 0 9,12 * * *", HolidayCalendar.NONE);
        var daily = Plan.again(rhythm, ZONE, Duration.ofMinutes(30));
        before = Duration.ofHours(4);
        plan = daily;
        assertThat(at("08:00")).containsExactly("COMES 9:00-9:30", "COMES 12:00-12:30");
        plan = daily.without(LocalDateTime.parse("2027-03-02T12:00"))
                .with(
                        LocalDateTime.parse("2027-03-02T09:00"),
                        new Plan.Span(NINE.plus(HOUR), NINE.plus(HOUR).plus(HOUR)));
        assertThat(at("08:10")).containsExactly("MOVED 10:00-11:00", "OFF 12:00-12:30");
        assertThat(at("09:00")).isEmpty();
        assertThat(at("10:00")).containsExactly("BEGINS 10:00-11:00");
        assertThat(at("11:00")).containsExactly("ENDS 10:00-11:00");
    }

    /** However seldom somebody looks, whoever heard of a begin hears of its end, and nothing is said twice. */
    @ParameterizedTest
    @ValueSource(ints = {1, 3, 7, 20, 55})
    void howeverOftenOneLooksWhatBeganEnds(int minutes) {
        plan = Plan.again(RhythmText.read("cron 0 * * * *", HolidayCalendar.NONE), ZONE, Duration.ofMinutes(30));
        before = Duration.ofMinutes(10);
        var said = new LinkedHashMap<LocalDateTime, List<Said>>();
        for (int minute = 0; minute < 24 * 60; minute += minutes) {
            var now = NINE.plus(Duration.ofMinutes(minute));
            for (var one : Telling.due(plan, before, List.copyOf(last.values()), now)) {
                if (one.said().last()) last.remove(one.meant());
                else last.put(one.meant(), one);
                said.computeIfAbsent(one.meant(), it -> new ArrayList<>()).add(one.said());
            }
        }
        assertThat(said).hasSizeGreaterThan(10);
        said.values().forEach(all -> assertThat(all).doesNotHaveDuplicates());
        assertThat(said.values().stream().filter(all -> !all.getLast().last())).hasSizeLessThanOrEqualTo(2);
    }
}
