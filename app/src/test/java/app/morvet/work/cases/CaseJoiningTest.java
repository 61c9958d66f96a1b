package app.morvet.work.cases;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.core.alert.Transition;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.SettleReason;
import app.morvet.sources.vendors.Vendors;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Cases that have one cause become one, and one that has two becomes two. */
class CaseJoiningTest extends ToldAlerts {
    private static final int ZERO = 100;

    @Autowired
    private CaseJoining joining;

    private Subject instance;
    private Subject job;
    private long failed;
    private long hot;

    @BeforeEach
    void aJobThatNeedsWhatAVendorRentsOut() {
        instance = component(Vendors.KIND);
        job = component(job());
        estate.needs(job.key(), instance.key());
        failed = runGuard(RunTrouble.FAILED);
        hot = guard("does not serve");
    }

    private void jobFails(int minute) {
        run(failed, job, job, Transition.Kind.RAISED, minute, 1, "The job failed");
    }

    private List<String> alertsOf(WorkCase one) {
        return jdbc.sql(
                        "select a.words from case_alert c join alert a on a.id = c.alert_id where c.case_id = :id order by a.id")
                .param("id", one.id())
                .query(String.class)
                .list();
    }

    @Test
    void whatFailedBeforeTheVendorSaidAnythingBecomesAPartOfItsCase() {
        jobFails(ZERO);
        var own = theCase(job);
        raised(hot, instance, ZERO + 10, CRITICAL, 9);
        var cause = theCase(instance);
        assertThat(theCase(job).progress().settleReason()).isEqualTo(SettleReason.JOINED);
        assertThat(joining.partOf(own.id())).contains(cause.id());
        assertThat(alertsOf(cause)).contains("The job failed").hasSize(2);
        assertThat(logOf(theCase(job))).contains("goes on in case " + cause.id());
        assertThat(logOf(cause))
                .anyMatch(words -> words.startsWith("This explains case " + own.id() + ": The " + job.key()
                        + " needs the vendor instance The " + instance.key()));
        run(failed, job, job, Transition.Kind.CLEARED, ZERO + 20, 1, "The job failed");
        assertThat(logOf(theCase(instance))).anyMatch(words -> words.endsWith("has cleared"));
        assertThat(theCase(instance).overSince())
                .as("the vendor still does not serve")
                .isNull();
    }

    @Test
    void whatOverlivesItsCauseComesForwardInItsCase() {
        jobFails(ZERO);
        raised(hot, instance, ZERO + 10, CRITICAL, 9);
        cleared(hot, instance, ZERO + 20, 9);
        var cause = theCase(instance);
        assertThat(cause.overSince()).isNull();
        assertThat(cause.headline()).isEqualTo("The job failed");
    }

    @Test
    void whatSomebodyHasOrWhatIsOldOrNeedsNothingOfItStaysACaseOfItsOwn() {
        jobFails(ZERO);
        var taken = theCase(job);
        cases.take(taken.id(), taken.version(), person("other"), at(ZERO + 2));
        raised(hot, instance, ZERO + 10, CRITICAL, 9);
        assertThat(theCase(job).state()).isEqualTo(CaseState.TAKEN);

        aJobThatNeedsWhatAVendorRentsOut();
        jobFails(ZERO);
        raised(hot, instance, ZERO + 61, CRITICAL, 9);
        assertThat(theCase(job).settled())
                .as("it began more than an hour before")
                .isFalse();

        aJobThatNeedsWhatAVendorRentsOut();
        jobFails(ZERO);
        raised(hot, component(Vendors.KIND), ZERO + 10, CRITICAL, 9);
        assertThat(theCase(job).settled()).as("another vendor's trouble").isFalse();
    }

    /** After the cause has been heard of, what fails anew joins at once, as ever; the part does not open again. */
    @Test
    void whatFailsAgainGoesWhereItsCauseIs() {
        jobFails(ZERO);
        raised(hot, instance, ZERO + 10, CRITICAL, 9);
        assertThat(theCase(job).settled()).isTrue();
        run(failed, job, job, Transition.Kind.CLEARED, ZERO + 20, 1, "The job failed");
        jobFails(ZERO + 25);
        assertThat(alertsOf(theCase(instance))).hasSize(3);
        assertThat(theCase(job).settled()).isTrue();
    }

    @Test
    void peopleJoinWhatTheyKnowBelongsTogether() throws Exception {
        var one = component("host");
        var other = component("host");
        raised(hot, one, ZERO, WARNING, 3);
        raised(hot, other, ZERO + 1, CRITICAL, 9);
        var analyst = loggedIn("analyst");
        var page = analyst.page("/cases/" + theCase(other).id());
        assertThat(page.select("#join-into option").eachAttr("value"))
                .contains("" + theCase(one).id());
        var form = "version=%d&into=%d"
                .formatted(theCase(other).version(), theCase(one).id());
        analyst.post("/cases/%d/join".formatted(theCase(other).id()), form);
        var joined = Browser.shown(analyst.get("/cases/" + theCase(other).id()));
        assertThat(joined.select("#dossier-title").text())
                .contains("settled: part of another case")
                .contains("case " + theCase(one).id());
        assertThat(theCase(one).severity()).as("as bad as the worst of it").isEqualTo(CRITICAL);
        assertThat(alertsOf(theCase(one))).hasSize(2);
        assertThat(logOf(theCase(one)))
                .anyMatch(words -> words.startsWith(
                        "case %d is a part of this".formatted(theCase(other).id())));
        assertThatThrownBy(() ->
                        cases.reopen(theCase(other).id(), theCase(other).version(), person("analyst"), at(ZERO + 5)))
                .hasMessage("It is a part of case %d, and goes on there."
                        .formatted(theCase(one).id()));
    }

    @Test
    void whatCannotBeJoinedIsRefusedAndSaysWhy() {
        var one = component("host");
        var other = component("host");
        raised(hot, one, ZERO, WARNING, 3);
        raised(hot, other, ZERO + 1, WARNING, 3);
        var by = person("analyst");
        var from = theCase(other);
        assertThatThrownBy(() -> joining.join(from.id(), from.version(), from.id(), false, by, at(ZERO + 2)))
                .hasMessage("A case is no part of itself.");
        assertThatThrownBy(() -> joining.join(from.id(), from.version(), 0, false, by, at(ZERO + 2)))
                .hasMessage("Choose an open case.");
        assertThatThrownBy(() ->
                        joining.join(from.id(), from.version() + 1, theCase(one).id(), false, by, at(ZERO + 2)))
                .isInstanceOf(Overtaken.class);
        assertThat(alertsOf(theCase(other))).hasSize(1);
    }

    @Test
    void anAlertThatHasACauseOfItsOwnBecomesACaseOfItsOwn() throws Exception {
        var host = component("host");
        var full = guard("full");
        raised(hot, host, ZERO, CRITICAL, 9);
        raised(full, host, ZERO + 1, WARNING, 3);
        var one = theCase(host);
        var analyst = loggedIn("analyst");
        var alert = analyst.page("/cases/" + one.id())
                .select("form[hx-post$=split] [name=alert]")
                .val();
        analyst.post("/cases/%d/split".formatted(one.id()), "version=%d&alert=%s".formatted(one.version(), alert));
        var fresh = cases.find((Long) casesOf(host).getLast().get("id")).orElseThrow();
        assertThat(fresh.id()).isNotEqualTo(one.id());
        assertThat(fresh.severity()).isEqualTo(WARNING);
        assertThat(alertsOf(fresh)).hasSize(1);
        assertThat(logOf(cases.find(one.id()).orElseThrow()))
                .anyMatch(words -> words.startsWith("made case " + fresh.id() + " of: "));
        assertThatThrownBy(() -> joining.split(
                        fresh.id(), fresh.version(), Long.parseLong(alert), person("analyst"), at(ZERO + 4)))
                .hasMessage("It is the only alert of this case.");
        cleared(full, host, ZERO + 5, 3);
        assertThat(cases.find(fresh.id()).orElseThrow().overSince()).isEqualTo(at(ZERO + 5));
        assertThat(cases.find(one.id()).orElseThrow().overSince()).isNull();
    }

    /** Whoever was called for what turns out to be a part is not called on for it. */
    @Test
    void whatIsAPartCallsNobodyAnyMore() {
        jobFails(ZERO);
        var own = theCase(job);
        raised(hot, instance, ZERO + 10, CRITICAL, 9);
        assertThat(jdbc.sql("select count(*) from call_out_course where case_id = :id and ended_at is null")
                        .param("id", own.id())
                        .query(Long.class)
                        .single())
                .isZero();
        assertThat(jdbc.sql("select count(*) from delivery where case_id = :id and about = 'OVER'")
                        .param("id", own.id())
                        .query(Long.class)
                        .single())
                .as("it is not over")
                .isZero();
    }
}
