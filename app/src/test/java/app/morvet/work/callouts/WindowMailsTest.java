package app.morvet.work.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Mailed;
import app.morvet.ToldAlerts;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Teams hear of the windows over what is theirs, where a window says that they are to be told. */
class WindowMailsTest extends ToldAlerts {
    private static final AtomicInteger NUMBER = new AtomicInteger();
    private final Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);

    @Autowired
    private Windows windows;

    private Plan plan(int from, int to) {
        return Plan.once(
                now.plus(Duration.ofMinutes(from)), now.plus(Duration.ofMinutes(to)), ZoneId.of("Europe/Helsinki"));
    }

    private long window(Subject subject, int from, int to, @Nullable Duration told) {
        return windows.set(StoredWindow.fresh(new MaintenanceWindow(
                        "Gate firmware " + NUMBER.incrementAndGet(),
                        Scope.ALL.named(subject.key()),
                        plan(from, to),
                        MaintenanceWindow.Effect.HOLD,
                        MaintenanceWindow.Jobs.AS_EVER,
                        "new firmware"))
                .toldBefore(told));
    }

    private StoredWindow stored(long id) {
        return windows.find(id).orElseThrow();
    }

    /** Without names and times; in the last hour of a day what comes has a day before its time. */
    private List<String> subjects(String mail) {
        return Arrays.stream(MAIL.getReceivedMessagesForDomain(mail))
                .map(one -> {
                    try {
                        return one.getSubject()
                                .replaceAll("\"Gate firmware \\d+\"", "it")
                                .replaceAll("(\\w{3} \\d+ \\w{3} )?\\d\\d:\\d\\d", "T");
                    } catch (jakarta.mail.MessagingException bad) {
                        throw new IllegalStateException(bad);
                    }
                })
                .toList();
    }

    @Test
    void aTeamHearsThatItComesThatItIsElsewhereThatItHasBegunAndThatItIsOver() throws Exception {
        var subject = component("host");
        long id = window(subject, 40, 90, Duration.ofHours(1));
        eventually(() -> assertThat(subjects(subject.mail())).containsExactly("Window it begins at T"));
        windows.set(stored(id).with(stored(id).window().during(plan(50, 90))));
        eventually(
                () -> assertThat(subjects(subject.mail())).contains("Window it is at another time, and begins at T"));
        windows.set(stored(id).with(stored(id).window().during(plan(-1, 90))));
        eventually(() -> assertThat(subjects(subject.mail())).contains("Window it has begun, until T"));
        windows.end(id, stored(id).version(), person("analyst"));
        eventually(() -> assertThat(subjects(subject.mail())).hasSize(4).contains("Window it is over"));
        var first = Mailed.text(MAIL.getReceivedMessagesForDomain(subject.mail())[0]);
        assertThat(first)
                .contains("It covers, of what Team of " + subject.key() + " owns: The " + subject.key() + ".")
                .contains("because new firmware.")
                .contains("/windows/" + id);
        assertThat(loggedIn("analyst")
                        .page("/windows/" + id)
                        .select("#window-told")
                        .text())
                .contains("Team of " + subject.key(), "is over", "sent");
    }

    @Test
    void nobodyHearsOfOneThatSaysNothingAndOthersHearNothingOfIt() throws Exception {
        var subject = component("host");
        var told = component("host");
        var other = component("host");
        window(subject, -5, 30, null);
        long comes = window(told, 30, 60, Duration.ofHours(2));
        eventually(() -> assertThat(subjects(told.mail())).hasSize(1));
        windows.delete(comes, person("lead"));
        eventually(() -> assertThat(subjects(told.mail())).contains("Window it does not take place"));
        assertThat(subjects(subject.mail())).isEmpty();
        assertThat(subjects(other.mail())).isEmpty();
    }
}
