package app.morvet.core.windows;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow.Effect;
import app.morvet.core.windows.MaintenanceWindow.Jobs;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;

/** A window as a sentence, and what makes it a lead's. */
class MaintenanceWindowTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");
    private static final Instant EVENING = Instant.parse("2027-03-16T20:40:00Z");

    private static Plan once(int minutes) {
        return Plan.once(EVENING, EVENING.plus(Duration.ofMinutes(minutes)), HELSINKI);
    }

    private static Plan again(String text) {
        return Plan.again(RhythmText.read(text, HolidayCalendar.NONE), HELSINKI, Duration.ofMinutes(50));
    }

    private static MaintenanceWindow window(Scope scope, Plan plan, Effect effect, Jobs jobs, String reason) {
        return new MaintenanceWindow("w", scope, plan, effect, jobs, reason);
    }

    @Test
    void itReadsAsASentence() {
        var quay = Scope.ALL.named("quay-05").withAllOnIt();
        assertThat(window(
                                quay,
                                again("every 2 weeks on Tuesday from 2027-03-02 at 22:40"),
                                Effect.HOLD,
                                Jobs.AS_EVER,
                                "new gate firmware.")
                        .sentence(name -> name))
                .isEqualTo(
                        "Every 2 weeks on Tuesday from 2027-03-02 at 22:40 for 50 min, hold call-outs for quay-05 with all that stands"
                                + " on it, because new gate firmware.");
        assertThat(window(Scope.ALL, once(90), Effect.PAUSE, Jobs.NOT_EXPECTED, "")
                        .sentence(name -> name))
                .isEqualTo(
                        "Tue 16 Mar 2027 22:40 for 1 h 30 min, pause checks for each component of the estate, expecting no start of a job.");
        assertThat(window(
                                Scope.ALL.ofApplication("archive"),
                                again("cron 40 22 * * 2").until(LocalDate.of(2027, 6, 1)),
                                Effect.NONE,
                                Jobs.NOT_EXPECTED,
                                "")
                        .sentence(name -> "Sailing Archive"))
                .isEqualTo(
                        "By cron 40 22 * * 2 until 1 Jun 2027 for 50 min, expect no start of a job of each component of Sailing Archive.");
    }

    @Test
    void longOnesAndThoseThatRecurAreALeads() {
        assertThat(window(Scope.ALL, once(8 * 60), Effect.HOLD, Jobs.AS_EVER, "")
                        .isLeads())
                .isFalse();
        assertThat(window(Scope.ALL, once(8 * 60 + 1), Effect.HOLD, Jobs.AS_EVER, "")
                        .isLeads())
                .isTrue();
        assertThat(window(Scope.ALL, again("every day at 22:40"), Effect.HOLD, Jobs.AS_EVER, "")
                        .isLeads())
                .isTrue();
    }

    @Test
    void whatDoesNothingIsNone() {
        assertThatThrownBy(() -> window(Scope.ALL, once(5), Effect.NONE, Jobs.AS_EVER, ""))
                .hasMessage("a window that neither holds call-outs nor is over jobs does nothing");
        assertThatThrownBy(() -> new MaintenanceWindow(" ", Scope.ALL, once(5), Effect.HOLD, Jobs.AS_EVER, ""))
                .hasMessage("a window has a name of at most 100 letters");
    }
}
