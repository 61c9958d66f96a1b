package app.morvet.core.callouts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.alert.Severity;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.function.Function;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How somebody wishes to be told: which way first, and when of what is not critical. */
class WishesTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Digest MORNING = new Digest(Digest.Every.DAY, DayOfWeek.MONDAY, LocalTime.of(7, 0));

    private static Wishes quiet(String from, String to) {
        return new Wishes(null, LocalTime.parse(from), LocalTime.parse(to), null, true);
    }

    @ParameterizedTest
    @CsvSource({
        // Past midnight, at its edges, and on the other side of them.
        "22:00, 06:30, 2027-03-18T21:59:59+02:00, 2027-03-18T21:59:59+02:00",
        "22:00, 06:30, 2027-03-18T22:00:00+02:00, 2027-03-19T06:30:00+02:00",
        "22:00, 06:30, 2027-03-19T03:00:00+02:00, 2027-03-19T06:30:00+02:00",
        "22:00, 06:30, 2027-03-19T06:30:00+02:00, 2027-03-19T06:30:00+02:00",
        "12:00, 13:00, 2027-03-19T12:10:00+02:00, 2027-03-19T13:00:00+02:00",
        // The clock is put forward at 03:00 of the 28th: the end that it leaves out is passed with it.
        "22:00, 03:30, 2027-03-27T23:00:00+02:00, 2027-03-28T04:00:00+03:00",
        // And back at 04:00 of 31 October: 03:30 comes twice, and until it does for good it is quiet.
        "22:00, 03:30, 2027-10-30T23:00:00+03:00, 2027-10-31T03:30:00+03:00",
    })
    void whatIsNotCriticalWaitsForTheEndOfQuietHours(String from, String to, String at, String due) {
        assertThat(quiet(from, to).due(Severity.WARNING, instant(at), ZONE)).isEqualTo(instant(due));
        assertThat(quiet(from, to).due(Severity.CRITICAL, instant(at), ZONE)).isEqualTo(instant(at));
    }

    private static Instant instant(String text) {
        return java.time.OffsetDateTime.parse(text).toInstant();
    }

    @Test
    void aDigestGathersWhatIsNotCriticalUnlessItIsQuietThen() {
        var at = instant("2027-03-18T14:00:00+02:00");
        var digest = new Wishes(null, null, null, MORNING, true);
        assertThat(digest.due(Severity.NOTICE, at, ZONE)).isEqualTo(instant("2027-03-19T07:00:00+02:00"));
        assertThat(digest.due(Severity.CRITICAL, at, ZONE)).isEqualTo(at);
        var sleepsIn = new Wishes(null, LocalTime.of(23, 0), LocalTime.of(8, 0), MORNING, true);
        assertThat(sleepsIn.due(Severity.NOTICE, at, ZONE)).isEqualTo(instant("2027-03-19T08:00:00+02:00"));
    }

    @Property
    void nobodyIsToldInQuietHoursNorTwoDaysLater(
            @ForAll @LongRange(min = 1_790_000_000L, max = 1_830_000_000L) long second,
            @ForAll @IntRange(max = 1439) int from,
            @ForAll @IntRange(min = 1, max = 1439) int span) {
        var begin = LocalTime.MIN.plusMinutes(from);
        var wishes = new Wishes(null, begin, begin.plusMinutes(span), null, true);
        var at = Instant.ofEpochSecond(second);
        var due = wishes.due(Severity.WARNING, at, ZONE);
        assertThat(due).isBetween(at, at.plus(Duration.ofHours(25)));
        assertThat(wishes.due(Severity.WARNING, due, ZONE))
                .as("it is not quiet then")
                .isEqualTo(due);
    }

    @Test
    void theWayThatIsWishedComesFirstAndNoneIsAdded() {
        var mailFirst = new Wishes(Way.MAIL, null, null, null, true);
        assertThat(mailFirst.order(List.of(Way.TEXT, Way.MAIL), Function.identity()))
                .containsExactly(Way.MAIL, Way.TEXT);
        assertThat(mailFirst.order(List.of(Way.TEXT), Function.identity())).containsExactly(Way.TEXT);
        assertThat(Wishes.NONE.order(List.of(Way.TEXT, Way.MAIL), Function.identity()))
                .containsExactly(Way.TEXT, Way.MAIL);
    }

    @Test
    void wishesHaveWords() {
        assertThat(Wishes.NONE.words()).isEqualTo("as rules say");
        assertThat(new Wishes(Way.MAIL, LocalTime.of(22, 0), LocalTime.of(6, 0), MORNING, true).words())
                .isEqualTo("mail first; quiet from 22:00 to 06:00; what is not critical every day at 07:00");
    }

    @Test
    void whoeverWishesHearsNothingOfWindowsAndOfAllElse() {
        var none = new Wishes(null, null, null, null, false);
        for (var what : Happening.values()) {
            assertThat(none.hearOf(what)).as("" + what).isEqualTo(what != Happening.WINDOW);
            assertThat(Wishes.NONE.hearOf(what)).isTrue();
        }
        assertThat(none.words()).isEqualTo("nothing of windows that begin and end");
    }

    @Test
    void halfAWishIsRefused() {
        assertThatThrownBy(() -> new Wishes(null, LocalTime.NOON, null, null, true))
                .hasMessage("say from when and until when it is quiet");
        assertThatThrownBy(() -> quiet("08:00", "08:00")).hasMessage("quiet hours end at another time than they begin");
        assertThatThrownBy(() -> new Wishes(Way.WEB, null, null, null, true))
                .hasMessage("people are told by mail or by text message");
    }
}
