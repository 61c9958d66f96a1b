package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import app.morvet.core.alert.Transition;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.cases.SettleReason;
import app.morvet.sources.vendors.Vendors;
import com.icegreen.greenmail.util.GreenMailUtil;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** Who is told of what and when: the owning team, once when it turns critical and once when it is over. */
class WhoIsToldTest extends ToldAlerts {
    @Autowired
    private DeliveryStore deliveries;

    @Autowired
    private PastCallOuts recalled;

    @Autowired
    private TransactionTemplate transaction;

    /** What was said of a case to whom, the first first. */
    private List<String> told(Subject subject) {
        return deliveries.ofCase(theCase(subject).id()).reversed().stream()
                .map(one -> one.about() + " to " + one.recipient())
                .toList();
    }

    private Delivery last(Subject subject) {
        return deliveries.ofCase(theCase(subject).id()).getFirst();
    }

    @Test
    void aWarningTellsNobody() {
        var host = component(host());
        raised(guard("Hot"), host, 0, WARNING, 3);
        assertThat(told(host)).isEmpty();
    }

    @Test
    void theTeamIsToldOnceThatItIsCriticalAndOnceThatItIsOver() {
        var hot = guard("Hot");
        var also = guard("Also hot");
        var host = component(host());
        raised(hot, host, 0, CRITICAL, 8);
        raised(also, host, 1, CRITICAL, 9);
        eased(also, host, 2, 4, 9);
        rose(also, host, 3, 9);
        assertThat(told(host)).containsExactly("OPENED to " + host.mail());
        cleared(hot, host, 5, 8);
        assertThat(told(host)).as("one alert is up still").hasSize(1);
        cleared(also, host, 6, 9);
        assertThat(told(host)).containsExactly("OPENED to " + host.mail(), "OVER to " + host.mail());
    }

    @Test
    void whatWasOnlyAWarningIsNotToldToBeOver() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        cleared(guard, host, 5, 3);
        assertThat(told(host)).isEmpty();
    }

    @Test
    void whatComesBackCriticalIsToldAgain() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, CRITICAL, 8);
        cleared(guard, host, 5, 8);
        var one = theCase(host);
        cases.settle(one.id(), one.version(), person("analyst"), SettleReason.MENDED, "", at(10));
        assertThat(told(host)).as("it was told to be over before").hasSize(2);
        raised(guard, host, 30, CRITICAL, 9);
        assertThat(told(host)).hasSize(3).last().asString().startsWith("OPENED");
    }

    @Test
    void aCaseThatSomebodySettlesIsToldToBeOverAfterSecondThoughts() {
        var host = component(host());
        raised(guard("Hot"), host, 0, CRITICAL, 8);
        var one = theCase(host);
        var before = Instant.now();
        cases.settle(one.id(), one.version(), person("analyst"), SettleReason.MENDED, "", Instant.now());
        assertThat(last(host).about()).isEqualTo(Delivery.About.OVER);
        assertThat(last(host).nextTry()).isAfterOrEqualTo(before.plusSeconds(15));
        assertThat(last(host).subject()).startsWith("Over: heat is 8.0 on " + host.key());
    }

    @Test
    void aMailSaysWhatIsWrongSinceWhenAndWhoOwnsIt() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, CRITICAL, 8);
        var opened = last(host);
        assertThat(opened.subject())
                .isEqualTo(
                        "Critical: heat is 8.0 on %s (case %d)",
                        host.key(), theCase(host).id());
        assertThat(opened.body())
                .startsWith(
                        "A critical case is open on The %s, which Team of %s owns.".formatted(host.key(), host.key()))
                .contains("Application  Application of " + host.key())
                .contains("Value        8\n", "Limits       warn above 2, critical above 5")
                .contains("Times are in Europe/Helsinki.")
                .contains("/cases/" + theCase(host).id())
                .doesNotContain("Failed", "messages");
        cleared(guard, host, 5, 8);
        assertThat(last(host).subject()).startsWith("Over on The " + host.key() + "; at worst: heat is 8.0");
        assertThat(last(host).body()).contains("Value        8 at worst").doesNotContain("Failed");
    }

    @Test
    void aMailOfAJobBearsItsExitCodeAndNoCountOfMessages() {
        var failed = runGuard(RunTrouble.FAILED);
        var archive = component(job());
        run(
                failed,
                archive,
                archive,
                Transition.Kind.RAISED,
                0,
                28,
                "Archive failed with exit code 28 (no space left)");
        assertThat(told(archive)).as("a warning calls nobody").isEmpty();
        raised(guard("Full"), archive, 3, CRITICAL, 8);
        assertThat(last(archive).body()).doesNotContain("Failed  ", "messages");
    }

    /** A vendor's trouble holds up jobs of other teams: each of those hears so once, and that it is over. */
    @Test
    void theTeamsOfWhatIsHeldUpHearOfItOnceAndThatItIsOver() {
        var vendor = component(Vendors.KIND);
        var job = component(job());
        var other = component(job());
        var unharmed = component(job());
        estate.needs(job.key(), vendor.key());
        estate.needs(other.key(), vendor.key());
        long away = guard("Vendor away");
        raised(away, vendor, 0, CRITICAL, 8);
        var failed = runGuard(RunTrouble.FAILED);
        var late = runGuard(RunTrouble.RUNNING_LONG);
        run(failed, job, job, Transition.Kind.RAISED, 1, 4, "it failed");
        run(late, job, job, Transition.Kind.RAISED, 2, 4, "it runs long");
        run(failed, other, other, Transition.Kind.RAISED, 3, 4, "it failed");
        run(failed, unharmed, unharmed, Transition.Kind.RAISED, 3, 4, "it failed");
        assertThat(told(vendor))
                .containsExactly(
                        "OPENED to " + vendor.mail(), "EXPLAINS to " + job.mail(), "EXPLAINS to " + other.mail());
        var mail = deliveries.ofCase(theCase(vendor).id()).getFirst();
        assertThat(mail.subject()).startsWith("Held up: The " + other.key() + ", by ");
        assertThat(mail.body())
                .contains("which Team of " + other.key() + " owns, is held up by the trouble of The " + vendor.key())
                .contains("Team of " + vendor.key() + " has been told.");
        cleared(away, vendor, 9, 8);
        for (var one : List.of(failed, late)) run(one, job, job, Transition.Kind.CLEARED, 10, 0, "");
        run(failed, other, other, Transition.Kind.CLEARED, 10, 0, "");
        assertThat(told(vendor))
                .filteredOn(it -> it.startsWith("OVER"))
                .containsExactlyInAnyOrder(
                        "OVER to " + vendor.mail(), "OVER to " + job.mail(), "OVER to " + other.mail());
    }

    /** What is no more than a warning wakes nobody, whoever is held up by it. */
    @Test
    void aWarningThatHoldsOthersUpTellsNobody() {
        var vendor = component(Vendors.KIND);
        var job = component(job());
        estate.needs(job.key(), vendor.key());
        raised(guard("Vendor slow"), vendor, 0, WARNING, 3);
        run(runGuard(RunTrouble.FAILED), job, job, Transition.Kind.RAISED, 1, 4, "it failed");
        assertThat(told(vendor)).isEmpty();
    }

    @Test
    void whatBelongsToNoTeamTellsNobodyAndTheCaseSaysSo() {
        var subject = stray(host());
        raised(guard("Hot"), subject, 0, CRITICAL, 8);
        assertThat(told(subject)).isEmpty();
        assertThat(wholeLogOf(theCase(subject))).contains("Nobody was told: it belongs to no team yet");
    }

    @Test
    void theMailsOfAPastThatIsGoneThroughAreSentAsOfThen() throws Exception {
        var guard = guard("Hot");
        var host = component(host());
        recalled.send(Objects.requireNonNull(transaction.execute(status -> {
            raised(guard, host, 0, CRITICAL, 8);
            cleared(guard, host, 30, 8);
            return recalled.take(Instant.now().minus(Duration.ofHours(1)));
        })));
        assertThat(deliveries.ofCase(theCase(host).id())).allSatisfy(one -> {
            assertThat(one.state()).isEqualTo(Delivery.State.SENT);
            assertThat(one.sentAt()).isEqualTo(one.madeAt());
        });
        assertThat(wholeLogOf(theCase(host)))
                .contains("Told " + host.mail() + " by mail", "Told that it is over: " + host.mail() + " by mail");
        var sent = new ArrayList<Instant>();
        for (var mail : MAIL.getReceivedMessages())
            if (GreenMailUtil.getHeaders(mail).contains(host.mail()))
                sent.add(mail.getSentDate().toInstant());
        // They go all at once, and come in in any order.
        assertThat(sent).containsExactlyInAnyOrder(at(0), at(30));
    }
}
