package app.morvet.work.cases;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import app.morvet.core.alert.Transition;
import app.morvet.core.alert.Trouble;
import app.morvet.core.batch.RunTrouble;
import app.morvet.sources.vendors.Vendors;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Which open trouble explains failed messages: of what the interface needs, of the kind that their rule names. */
class ExplanationsTest extends ToldAlerts {
    @Autowired
    private Explanations explanations;

    private Optional<String> why(Subject of, String... kinds) {
        return explanations
                .of(Trouble.FAILING, sorting(of, "refused", false, kinds).explainedBy(), of.id())
                .map(Explanations.Explanation::why);
    }

    private Subject troubled(String kind) {
        var component = component(kind);
        raised(guard("Hot"), component, 0, CRITICAL, 8);
        return component;
    }

    @Test
    void whatIsNeededDirectlyExplainsAndTheLogSaysHow() throws Exception {
        var subject = subject();
        var endpoint = troubled("endpoint");
        estate.needs(subject.key(), endpoint.key());
        assertThat(why(subject, "endpoint"))
                .contains("Interface %s needs the endpoint The %s: heat is 8.0 on %s"
                        .formatted(subject.key(), endpoint.key(), endpoint.key()));
        send(List.of(failed(subject, Map.of("error", "connection refused by the gateway"))));
        eventually(() -> assertThat(logOf(theCase(endpoint)))
                .anySatisfy(words -> assertThat(words).contains("needs the endpoint The " + endpoint.key())));
        assertThat(casesOf(subject)).isEmpty();
    }

    @Test
    void onlyTroubleOfAKindThatTheRuleNamesExplains() {
        var subject = subject();
        estate.needs(subject.key(), troubled("host").key());
        assertThat(why(subject, "endpoint", "certificate")).isEmpty();
        assertThat(why(subject)).isEmpty();
        assertThat(why(subject, "certificate", "host")).isPresent();
    }

    @Test
    void whatWhatIsNeededStandsOnExplainsTooUpToFourSteps() {
        var subject = subject();
        var node = component("instance");
        var host = component("host");
        var store = component("host");
        var far = troubled("endpoint");
        var tooFar = troubled("certificate");
        estate.needs(subject.key(), node.key());
        estate.standsOn(node.key(), host.key());
        estate.needs(host.key(), store.key());
        estate.standsOn(store.key(), far.key());
        estate.needs(far.key(), tooFar.key());
        assertThat(why(subject, "endpoint").orElseThrow())
                .startsWith("Interface %s needs, through The %s, the endpoint The %s:"
                        .formatted(subject.key(), store.key(), far.key()));
        assertThat(why(subject, "certificate")).isEmpty();
    }

    @Test
    void componentsThatNeedEachOtherAreLookedAtOnce() {
        var subject = subject();
        var one = component("instance");
        var other = component("instance");
        estate.needs(subject.key(), one.key());
        estate.needs(one.key(), other.key());
        estate.needs(other.key(), one.key());
        estate.needs(other.key(), subject.key());
        assertThat(why(subject, "instance", "interface")).isEmpty();
        raised(guard("Hot"), other, 0, WARNING, 3);
        assertThat(why(subject, "instance", "interface").orElseThrow()).contains("through The " + one.key());
    }

    @Test
    void theNearestExplainsAndOfTheNearTheOldest() {
        var subject = subject();
        var hub = component("instance");
        var far = troubled("endpoint");
        var older = troubled("endpoint");
        var newer = troubled("endpoint");
        estate.needs(subject.key(), hub.key());
        estate.needs(hub.key(), far.key());
        assertThat(why(subject, "endpoint").orElseThrow()).contains("The " + far.key());
        estate.needs(subject.key(), newer.key());
        assertThat(why(subject, "endpoint").orElseThrow()).contains("The " + newer.key());
        estate.needs(subject.key(), older.key());
        assertThat(why(subject, "endpoint").orElseThrow()).contains("The " + older.key());
    }

    @Test
    void whatIsOverOrSettledExplainsNothing() {
        var subject = subject();
        var guard = guard("Hot");
        var endpoint = component("endpoint");
        estate.needs(subject.key(), endpoint.key());
        raised(guard, endpoint, 0, CRITICAL, 8);
        assertThat(why(subject, "endpoint")).isPresent();
        cleared(guard, endpoint, 5, 8);
        assertThat(why(subject, "endpoint")).isEmpty();
        raised(guard, endpoint, 9, CRITICAL, 8);
        assertThat(why(subject, "endpoint")).isPresent();
        var one = theCase(endpoint);
        cases.settle(one.id(), one.version(), person("analyst"), app.morvet.core.cases.SettleReason.MENDED, "", at(10));
        assertThat(why(subject, "endpoint")).isEmpty();
    }

    /** What was explained stays where it is when its cause is over; what else goes wrong with it is no second piece of work. */
    @Test
    void theSameInTroubleAgainIsInTheSameCaseThoughItsCauseIsOver() {
        var vendor = component(Vendors.KIND);
        var job = component(job());
        var other = component(job());
        for (var one : List.of(job, other)) estate.needs(one.key(), vendor.key());
        var away = guard("Vendor away");
        raised(away, vendor, 0, CRITICAL, 8);
        run(runGuard(RunTrouble.FAILED), job, job, Transition.Kind.RAISED, 1, 4, "it failed");
        cleared(away, vendor, 2, 8);
        raised(guard("Hot"), job, 3, WARNING, 3);
        raised(guard("Hot"), other, 3, WARNING, 3);
        assertThat(casesOf(job)).isEmpty();
        assertThat(logOf(theCase(vendor)))
                .contains("This explains it: The %s is in this case already: it failed".formatted(job.key()));
        assertThat(casesOf(other)).hasSize(1);
    }

    /** A vendor's trouble takes in the trouble of jobs that need it; that of others it does not. */
    @Test
    void aJobThatNeedsWhatAVendorDoesNotServeJoinsItsCase() {
        var vendor = component(Vendors.KIND);
        var job = component(job());
        var other = component(job());
        estate.needs(job.key(), vendor.key());
        raised(guard("Vendor away"), vendor, 0, CRITICAL, 8);
        var failed = runGuard(RunTrouble.FAILED);
        run(failed, job, job, Transition.Kind.RAISED, 1, 4, "it failed");
        run(failed, other, other, Transition.Kind.RAISED, 1, 4, "it failed");
        assertThat(casesOf(job)).isEmpty();
        assertThat(logOf(theCase(vendor)))
                .anyMatch(
                        words -> words.startsWith("This explains it: The " + job.key() + " needs the vendor instance"));
        assertThat(casesOf(other)).hasSize(1);
    }

    @Test
    void whatIsOnlyForetoldExplainsNothingYet() {
        var subject = subject();
        var disk = component("host");
        estate.needs(subject.key(), disk.key());
        long foretold = trendGuard("Foretold");
        raised(foretold, disk, 0, WARNING, 40);
        assertThat(why(subject, "host")).isEmpty();
        raised(guard("Hot"), disk, 1, WARNING, 3);
        assertThat(why(subject, "host")).isPresent();

        var job = component(job());
        estate.needs(subject.key(), job.key());
        run(runGuard(RunTrouble.DEADLINE_AT_RISK), job, job, Transition.Kind.RAISED, 0, 40, "likely late");
        assertThat(why(subject, job())).isEmpty();
        run(runGuard(RunTrouble.RUNNING_LONG), job, job, Transition.Kind.RAISED, 1, 40, "44 min over");
        assertThat(why(subject, job())).isPresent();
    }
}
