package app.morvet.work.cases;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.Person;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** What is open is read once for all pages, and is what is stored as soon as anything of it has changed. */
class OpenTroubleTest extends ToldAlerts {
    @Autowired
    private TransactionTemplate inTransaction;

    private Subject host;
    private long guard;
    private Person pia;

    @BeforeEach
    void somethingOpen() {
        host = component(host());
        guard = guard("open");
        raised(guard, host, 0, WARNING, 3);
        pia = person("other");
    }

    private Optional<WorkCase> shown(long id) {
        return cases.openTrouble().cases().stream()
                .filter(one -> one.id() == id)
                .findFirst();
    }

    /** As it is stored, once it has been looked at. */
    private WorkCase looked(long id) {
        var stored = cases.find(id).orElseThrow();
        assertThat(shown(id)).isEqualTo(stored.settled() ? Optional.empty() : Optional.of(stored));
        return stored;
    }

    @Test
    void itIsReadOnceWhileNothingMoves() {
        assertThat(IntStream.range(0, 50).mapToObj(look -> cases.openTrouble()).distinct())
                .as("rounds of others may move something meanwhile")
                .hasSizeLessThan(25);
    }

    @Test
    void whatPeopleDoIsShownAtOnce() {
        var id = looked(theCase(host).id()).id();
        cases.take(id, looked(id).version(), pia, Instant.now());
        assertThat(looked(id).progress().takenBy()).isEqualTo(pia.id());
        cases.settle(id, looked(id).version(), pia, SettleReason.MENDED, "done", Instant.now());
        assertThat(looked(id).settled()).isTrue();
        cases.reopen(id, looked(id).version(), pia, Instant.now());
        assertThat(looked(id).settled()).isFalse();
        cases.returned(id, "Platform", "not ours", Instant.now());
        assertThat(looked(id).progress().returned()).isTrue();
    }

    @Test
    void whatAlertsDoIsShownAtOnce() {
        var id = looked(theCase(host).id()).id();
        var worse = guard("open and worse");
        raised(worse, host, 2, CRITICAL, 9);
        assertThat(looked(id).severity()).isEqualTo(CRITICAL);
        assertThat(ofCase(id)).containsOnlyKeys(alertOf(worse), alertOf(guard));
        cleared(worse, host, 4, 0);
        assertThat(ofCase(id)).containsOnlyKeys(alertOf(guard));
        cleared(guard, host, 5, 0);
        assertThat(ofCase(id)).isEmpty();
        assertThat(looked(id).overSince()).isEqualTo(at(5));
    }

    private long alertOf(long origin) {
        return jdbc.sql("select max(id) from alert where origin_kind = 'guard' and origin_id = :id")
                .param("id", origin)
                .query(Long.class)
                .single();
    }

    /** Its alerts that are up. */
    private Map<Long, Long> ofCase(long id) {
        var open = cases.openTrouble();
        return open.up().stream()
                .filter(one -> open.caseOf().get(one.id()).id() == id)
                .collect(java.util.stream.Collectors.toMap(
                        one -> one.id(), one -> one.about().component()));
    }

    @Test
    void whatIsUpThoughItsCaseIsSettledIsNotToldUntilItIsOpenAgain() {
        var one = theCase(host);
        assertThat(cases.openTrouble().touched()).containsEntry(one.id(), Set.of(host.id()));
        cases.settle(one.id(), one.version(), pia, SettleReason.MENDED, "", Instant.now());
        assertThat(ofCase(one.id())).isEmpty();
        assertThat(cases.openTrouble().touched()).doesNotContainKey(one.id());
        cases.reopen(one.id(), one.version() + 1, pia, Instant.now());
        assertThat(ofCase(one.id())).containsKey(alertOf(guard));
    }

    @Test
    void whatIsTakenBackIsNotShown() {
        var one = theCase(host);
        inTransaction.executeWithoutResult(status -> {
            cases.take(one.id(), one.version(), pia, Instant.now());
            assertThat(shown(one.id()).orElseThrow().progress().takenBy())
                    .as("by who does it")
                    .isEqualTo(pia.id());
            status.setRollbackOnly();
        });
        assertThat(looked(one.id()).progress().takenBy()).isNull();
    }

    /** As another node does it: nothing here knows but by what it tells. */
    @Test
    void whatAnotherNodeDoesIsShownOnceItTells() throws Exception {
        var one = theCase(host);
        looked(one.id());
        jdbc.sql("update work_case set taken_by = :pia where id = :id")
                .param("pia", pia.id())
                .param("id", one.id())
                .update();
        jdbc.sql("select pg_notify('morvet', 'another/node page cases')")
                .query((row, number) -> "")
                .list();
        eventually(() -> assertThat(looked(one.id()).progress().takenBy()).isEqualTo(pia.id()));
    }
}
