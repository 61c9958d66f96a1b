package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import app.morvet.core.alert.Move;
import app.morvet.core.cases.SettleReason;
import app.morvet.work.cases.CaseJoining;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A host goes down with all that stands on it: thirty services, four interfaces and six jobs are one cause, and one call-out a team. */
class HostDownTest extends ToldAlerts {
    @Autowired
    private DeliveryStore deliveries;

    @Autowired
    private CaseJoining joining;

    private Subject host;
    private final List<Subject> onIt = new ArrayList<>();

    private void estate(int services) {
        host = component(host());
        for (int i = 0; i < services; i++) onIt.add(standing("service"));
        for (int i = 0; i < 4; i++) onIt.add(standing("interface"));
        for (int i = 0; i < 6; i++) {
            var job = component(job());
            // Every other one only needs a service there.
            if (i % 2 == 0) estate.needs(job.key(), onIt.get(i).key());
            else estate.standsOn(job.key(), host.key());
            onIt.add(job);
        }
    }

    private Subject standing(String kind) {
        var one = component(kind);
        estate.standsOn(one.key(), host.key());
        return one;
    }

    private List<Move> trouble(int minute) {
        long stopped = stateGuard("Not running");
        var moves = new ArrayList<Move>();
        moves.add(raising(stopped, host, minute, CRITICAL, "The host does not answer"));
        for (var one : onIt) moves.add(raising(stopped, one, minute, CRITICAL, one.key() + " is stopped"));
        return moves;
    }

    private List<String> told() {
        return deliveries.ofCase(theCase(host).id()).stream()
                .map(one -> one.about() + " to " + one.recipient())
                .toList();
    }

    @Test
    void inOneRoundItIsOneCaseAndEachTeamIsToldOnce() {
        estate(30);
        var moves = trouble(0);
        Collections.shuffle(moves, new Random(3));
        tell(moves.toArray(Move[]::new));
        assertOneCase();
        assertThat(told()).hasSize(41).contains("OPENED to " + host.mail()).doesNotHaveDuplicates();
        assertThat(told()).filteredOn(it -> it.startsWith("EXPLAINS")).hasSize(40);
    }

    /** Rounds that are not one: what is heard first is told, and goes over to the host's case when that is heard of. */
    @Test
    void oneAfterTheOtherItIsOneCaseTooWhateverTheOrder() {
        estate(6);
        var moves = trouble(0);
        Collections.shuffle(moves, new Random(8));
        for (var one : moves) tell(one);
        assertOneCase();
        assertThat(cases.find(theCase(host).id()).orElseThrow().headline()).isEqualTo("The host does not answer");
    }

    private void assertOneCase() {
        var one = theCase(host);
        assertThat(one.settled()).isFalse();
        for (var it : onIt)
            assertThat(casesOf(it)).as(it.key()).allMatch(row -> row.get("state")
                    .equals("SETTLED"));
        assertThat(jdbc.sql("select count(*) from case_alert where case_id = :id")
                        .param("id", one.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(onIt.size() + 1);
    }

    @Test
    void whatOnlyStandsOnAnotherHostIsACaseOfItsOwn() {
        estate(6);
        var elsewhere = component("service");
        var moves = new ArrayList<>(trouble(0));
        moves.add(raising(stateGuard("Not running"), elsewhere, 0, CRITICAL, "stopped, too"));
        tell(moves.toArray(Move[]::new));
        assertThat(theCase(elsewhere).settled()).isFalse();
    }

    /** What somebody said of one time is so the next time. */
    @Test
    void aCauseThatSomebodyRememberedExplainsTheNextTime() throws Exception {
        var fares = component("endpoint");
        var disk = component(host());
        long slow = guard("slow");
        raised(slow, disk, 0, CRITICAL, 9);
        raised(slow, fares, 1, CRITICAL, 9);
        var analyst = loggedIn("analyst");
        analyst.post(
                "/cases/%d/join".formatted(theCase(fares).id()),
                "version=%d&into=%d&remember=true"
                        .formatted(theCase(fares).version(), theCase(disk).id()));
        assertThat(joining.partOf(theCase(fares).id())).contains(theCase(disk).id());
        settle(disk);

        raised(slow, disk, 60, CRITICAL, 9);
        cleared(slow, fares, 59, 9);
        raised(slow, fares, 61, CRITICAL, 9);
        assertThat(logOf(theCase(disk)))
                .anyMatch(words -> words.startsWith("This explains it: The " + fares.key()
                        + " is often in trouble because of the host The " + disk.key() + ", as "));

        var lead = loggedIn("lead");
        assertThat(lead.page("/estate/components/" + disk.key()).text()).contains("joins trouble of The " + disk.key());
        lead.post("/estate/components/" + fares.key() + "/causes", "cause=" + disk.key() + "&back=" + disk.key());
        assertThat(lead.page("/estate/components/" + disk.key()).text()).doesNotContain("joins trouble of");
    }

    private void settle(Subject subject) {
        var one = theCase(subject);
        cleared(
                jdbc.sql("select max(origin_id) from alert where component_id = :id")
                        .param("id", subject.id())
                        .query(Long.class)
                        .single(),
                subject,
                30,
                9);
        one = theCase(subject);
        cases.settle(one.id(), one.version(), person("analyst"), SettleReason.MENDED, "", at(31));
    }
}
