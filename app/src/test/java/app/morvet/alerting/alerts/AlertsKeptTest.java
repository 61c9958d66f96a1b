package app.morvet.alerting.alerts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.ToldAlerts;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Move;
import app.morvet.core.alert.Origin;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.batch.RunTrouble;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** How alerts are kept: one for each fold, with what they came to, and all of a round or nothing of it. */
class AlertsKeptTest extends ToldAlerts {
    @Autowired
    private Alerts alerts;

    private List<Map<String, Object>> kept(Subject subject) {
        return jdbc.sql("select * from alert where component_id = :id order by raised_at, id")
                .param("id", subject.id())
                .query()
                .listOfRows();
    }

    @Test
    void anAlertIsOneRowFromItsBeginningToItsEnd() {
        long guard = guard("kept");
        var subject = component(host());
        raised(guard, subject, 0, WARNING, 3);
        assertThat(kept(subject)).singleElement().satisfies(row -> assertThat(row)
                .containsEntry("level", "WARNING")
                .containsEntry("value", 3.0)
                .containsEntry("worst", 3.0)
                .containsEntry("flaps", false)
                .containsEntry("cleared_at", null)
                .containsEntry("words", "heat is 3.0 on " + subject.key()));
        rose(guard, subject, 1, 7);
        counted(guard, subject, 2, 6, 9);
        eased(guard, subject, 3, 4, 9);
        assertThat(kept(subject)).singleElement().satisfies(row -> assertThat(row)
                .containsEntry("level", "WARNING")
                .containsEntry("value", 4.0)
                .containsEntry("worst", 9.0)
                .containsEntry("words", "heat is 4.0 on " + subject.key()));
        cleared(guard, subject, 5, 9);
        assertThat(kept(subject)).singleElement().satisfies(row -> {
            // Over, it still says how it was when it last said something.
            assertThat(row).containsEntry("level", "WARNING").containsEntry("words", "heat is 4.0 on " + subject.key());
            assertThat(((java.sql.Timestamp) row.get("cleared_at")).toInstant()).isEqualTo(at(5));
        });
    }

    @Test
    void whatComesAgainIsAnotherAlertAndTheFirstStaysAsItWas() {
        long guard = guard("again");
        var subject = component(host());
        raised(guard, subject, 0, WARNING, 3);
        cleared(guard, subject, 5, 3);
        raised(guard, subject, 9, CRITICAL, 8);
        assertThat(kept(subject)).extracting(row -> row.get("level")).containsExactly("WARNING", "CRITICAL");
        assertThat(kept(subject))
                .extracting(row -> row.get("cleared_at") == null)
                .containsExactly(false, true);
    }

    /** Two nodes may find it at the same moment, when what is judged was just dealt out anew. */
    @Test
    void whatIsUpIsNotRaisedASecondTime() {
        long guard = guard("twice");
        var subject = component(host());
        raised(guard, subject, 0, WARNING, 3);
        raised(guard, subject, 1, WARNING, 4);
        raised(guard, subject, 2, CRITICAL, 8);
        assertThat(kept(subject)).singleElement().satisfies(row -> assertThat(row)
                .containsEntry("level", "CRITICAL")
                .containsEntry("worst", 8.0));
        assertThat(casesOf(subject)).hasSize(1);
        assertThat(logOf(theCase(subject)).stream().filter(words -> words.startsWith("rose to critical")))
                .hasSize(1);
    }

    @Test
    void twoGuardsAndTwoComponentsAreFoldsOfTheirOwn() {
        long one = guard("one");
        long other = guard("other");
        var first = component(host());
        var second = component(host());
        raised(one, first, 0, WARNING, 3);
        raised(other, first, 1, WARNING, 4);
        raised(one, second, 2, CRITICAL, 9);
        cleared(one, first, 3, 3);
        assertThat(kept(first)).extracting(row -> row.get("cleared_at") == null).containsExactly(false, true);
        assertThat(kept(second)).singleElement().satisfies(row -> assertThat(row)
                .containsEntry("cleared_at", null));
    }

    @Test
    void thatItComesAndGoesIsKeptUntilItsEnd() {
        long guard = guard("flapping");
        var subject = component(host());
        raised(guard, subject, 0, WARNING, 3);
        flaps(guard, subject, 0, 3);
        rose(guard, subject, 4, 8);
        cleared(guard, subject, 9, 8);
        assertThat(kept(subject)).singleElement().satisfies(row -> assertThat(row)
                .containsEntry("flaps", true));
    }

    @Test
    void aRoundIsKeptAsAWholeOrNotAtAll() {
        long guard = guard("whole");
        var subject = component(host());
        raised(guard, subject, 0, WARNING, 3);
        var rises = new Transition(Transition.Kind.ROSE, at(1), CRITICAL, 8, 8);
        var unknown = new Transition(Transition.Kind.RAISED, at(1), WARNING, 3, 3);
        var origin = new Origin("guard", guard);
        var key = (String) kept(subject).getFirst().get("fold_key");
        var worse = new Move(origin, key, About.of(subject.id()), rises, "worse", "worse");
        var ofNothing = new Move(origin, "s-nowhere", About.of(-1), unknown, "of nothing", "of nothing");
        assertThatThrownBy(() -> tell(worse, ofNothing)).isInstanceOf(RuntimeException.class);
        assertThat(kept(subject)).singleElement().satisfies(row -> assertThat(row)
                .containsEntry("level", "WARNING")
                .containsEntry("value", 3.0));
        assertThat(logOf(theCase(subject))).noneMatch(words -> words.contains("worse"));
    }

    @Test
    void ofASpanTheAlertsThatWereUpInItAreFound() {
        long guard = guard("span");
        var subject = component(host());
        var other = component(host());
        raised(guard, subject, 0, WARNING, 3);
        cleared(guard, subject, 10, 3);
        raised(guard, subject, 20, CRITICAL, 8);
        raised(guard, other, 5, WARNING, 3);
        assertThat(alerts.stretches(List.of(subject.id()), at(5), at(15)))
                .extracting(Alerts.Stretch::level, Alerts.Stretch::from, Alerts.Stretch::to)
                .containsExactly(org.assertj.core.groups.Tuple.tuple(WARNING, at(0), at(10)));
        assertThat(alerts.stretches(List.of(subject.id(), other.id()), at(19), at(30)))
                .extracting(Alerts.Stretch::component)
                .containsExactlyInAnyOrder(subject.id(), other.id());
        // What ended as the span begins, or begins as it ends, is not in it.
        assertThat(alerts.stretches(List.of(subject.id()), at(10), at(20))).isEmpty();
        assertThat(alerts.stretches(List.of(), at(0), at(30))).isEmpty();
    }

    @Test
    void anAlertOfSeveralSeriesSpeaksOfTheOneThatIsWorstNow() {
        long guard = guard("series");
        var first = component(host());
        var second = component(host());
        raised(guard, first, 0, WARNING, 3);
        raised(guard, second, 0, WARNING, 3);
        long alert = (Long) kept(first).getFirst().get("id");
        long ofSecond = (Long) kept(second).getFirst().get("subject_id");
        var group = (String) kept(first).getFirst().get("fold_key");
        var says = new Transition(Transition.Kind.SAYS, at(1), WARNING, 5, 5);
        var about = About.of(first.id());
        tell(new Move(new Origin("guard", guard), group, about, ofSecond, says, "hotter there", "hotter there", ""));
        assertThat(alerts.byId(alert)).hasValueSatisfying(one -> {
            assertThat(one.subject()).isEqualTo(ofSecond);
            assertThat(one.words()).isEqualTo("hotter there");
        });
        assertThat(alerts.byId(-1)).isEmpty();
    }

    @Test
    void anAlertOverRunsIsOneForEachJobAndKnowsItsEnd() {
        long late = runGuard(RunTrouble.DID_NOT_START);
        var job = component(job());
        run(late, job, job, Transition.Kind.RAISED, 0, 5, "5 min late");
        run(late, job, job, Transition.Kind.CLEARED, 9, 9, "");
        run(late, job, job, Transition.Kind.RAISED, 20, 1, "1 min late");
        assertThat(kept(job)).extracting(row -> row.get("words")).containsExactly("5 min late", "1 min late");
        assertThat(kept(job)).extracting(row -> row.get("origin_id")).containsExactly(late, late);
        assertThat(casesOf(job)).hasSize(1);
        assertThat(theCase(job).severity()).isEqualTo(Severity.WARNING);
    }
}
