package app.morvet.work.cases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.MorvetTest;
import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.SettleReason;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** From failures to a case, and what people do to it. */
class CaseLifeTest extends MorvetTest {
    @Autowired
    CaseBook book;

    private WorkCase opened(Subject subject) throws Exception {
        guard(subject, Duration.ofMinutes(10));
        fail(subject, 3);
        eventually(() -> caseOf(subject));
        return now(subject);
    }

    private WorkCase now(Subject subject) {
        return book.find((Long) caseOf(subject).get("id")).orElseThrow();
    }

    private List<String> log(WorkCase one) {
        return jdbc.sql("select words from case_entry where case_id = :id order by id")
                .param("id", one.id())
                .query(String.class)
                .list();
    }

    @Test
    void failuresOverTheLimitOpenACaseAndRepeatsFoldIntoIt() throws Exception {
        var subject = subject();
        var one = opened(subject);
        assertThat(one.headline())
                .isEqualTo(
                        "3 failed in the last 10 min on Interface " + subject.key() + ", over the warning limit of 2");
        assertThat(one.failures()).isEqualTo(3);
        fail(subject, 2);
        eventually(() -> assertThat(now(subject).failures()).isEqualTo(5));
        assertThat(now(subject).severity().word()).isEqualTo("warning");
        fail(subject, 1);
        eventually(() -> assertThat(now(subject).severity().word()).isEqualTo("critical"));
        assertThat(log(one)).anyMatch(words -> words.startsWith("rose to critical: 6 failed"));
    }

    @Test
    void severalGuardsOnOneInterfaceMakeOneCase() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(20));
        var one = opened(subject);
        eventually(() -> assertThat(jdbc.sql("select count(*) from case_alert where case_id = :id")
                        .param("id", one.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(2));
        assertThat(casesOf(subject)).hasSize(1);
    }

    @Test
    void aGuardThatIsSwitchedOffEndsItsAlert() throws Exception {
        var subject = subject();
        var one = opened(subject);
        var guard = guards.all().stream()
                .filter(it -> it.name().startsWith("Guard of " + subject.key() + " "))
                .findFirst()
                .orElseThrow();
        guards.change(
                new app.morvet.rules.guards.StoredGuard(
                        guard.id(),
                        guard.name(),
                        false,
                        guard.watch(),
                        guard.rule(),
                        guard.fixNote(),
                        null,
                        guard.version()),
                person("lead"));
        eventually(() -> assertThat(now(subject).overSince()).isNotNull());
        assertThat(log(one)).anyMatch(words -> words.endsWith("has cleared"));
        assertThat(jdbc.sql("select count(*) from audit_entry where subject = :guard")
                        .param("guard", "guard " + guard.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(2);
    }

    @Test
    void anActCanBeTakenBackAndOnlyByWhoDidItAndOnlyOnce() throws Exception {
        var one = opened(subject());
        var analyst = person("analyst");
        long entry = book.take(one.id(), one.version(), analyst, Instant.now());
        assertThatThrownBy(() -> book.undo(entry, person("other"), Instant.now()))
                .isInstanceOf(Overtaken.class);
        book.undo(entry, analyst, Instant.now());
        assertThat(book.find(one.id()).orElseThrow().progress()).isEqualTo(one.progress());
        assertThatThrownBy(() -> book.undo(entry, analyst, Instant.now())).hasMessage("This can no longer be undone.");
        long late = book.take(one.id(), book.find(one.id()).orElseThrow().version(), analyst, Instant.now());
        assertThatThrownBy(() -> book.undo(late, analyst, Instant.now().plusSeconds(16)))
                .hasMessage("This can no longer be undone.");
    }

    @Test
    void ofManyWhoActAtOnceOneDoesAndTheOthersAreTold() throws Exception {
        var one = opened(subject());
        var analyst = person("analyst");
        try (var threads = Executors.newFixedThreadPool(8)) {
            var tries = IntStream.range(0, 8)
                    .mapToObj(i -> threads.submit(() -> {
                        try {
                            book.take(one.id(), one.version(), analyst, Instant.now());
                            return "did";
                        } catch (Overtaken overtaken) {
                            return overtaken.getMessage();
                        }
                    }))
                    .toList();
            var outcomes = new java.util.ArrayList<String>();
            for (var outcome : tries) outcomes.add(outcome.get());
            assertThat(outcomes).filteredOn("did"::equals).hasSize(1);
            assertThat(outcomes)
                    .filteredOn(words -> words.startsWith("Somebody was faster: Annika Ruuth took the case"))
                    .hasSize(7);
        }
    }

    @Test
    void settledTroubleThatGrowsAgainIsTheSameCaseOpenedAgain() throws Exception {
        var subject = subject();
        var one = opened(subject);
        book.settle(one.id(), one.version(), person("analyst"), SettleReason.MENDED, "code added", Instant.now());
        assertThat(now(subject).state()).isEqualTo(CaseState.SETTLED);
        fail(subject, 2);
        fail(subject, 1);
        eventually(() -> assertThat(now(subject).state()).isEqualTo(CaseState.NEW));
        assertThat(log(one))
                .contains(
                        "settled the case as mended: code added",
                        "The case is open again: it rose to critical after it was settled");
    }

    @Test
    void aQuietCaseSpeaksAgainAtItsTimeOrWhenItGetsWorse() throws Exception {
        var subject = subject();
        var one = opened(subject);
        assertThatThrownBy(() -> book.quiet(
                        one.id(),
                        one.version(),
                        person("analyst"),
                        Instant.now().minusSeconds(1),
                        "",
                        Instant.now()))
                .hasMessageContaining("must lie ahead");
        book.quiet(
                one.id(),
                one.version(),
                person("analyst"),
                Instant.now().plusSeconds(3600),
                "partner knows",
                Instant.now());
        fail(subject, 3);
        eventually(() -> assertThat(now(subject).progress().quietUntil()).isNull());
        assertThat(log(one)).contains("Quiet has ended: it became critical");

        var quiet = opened(subject());
        book.quiet(quiet.id(), quiet.version(), person("analyst"), Instant.now().plusSeconds(1), "", Instant.now());
        eventually(() -> assertThat(log(quiet)).contains("Quiet has ended, and it is still going on"));
    }

    @Test
    void aNoteNeedsWordsAndASettledCaseIsNotActedOn() throws Exception {
        var one = opened(subject());
        assertThatThrownBy(() -> book.note(one.id(), person("analyst"), "  ", Instant.now()))
                .hasMessage("Write something to note.");
        book.settle(one.id(), one.version(), person("analyst"), SettleReason.FALSE_CALL, "", Instant.now());
        int version = book.find(one.id()).orElseThrow().version();
        assertThatThrownBy(() -> book.take(one.id(), version, person("other"), Instant.now()))
                .hasMessage("This case is settled. Reopen it to work on it.");
        book.reopen(one.id(), version, person("other"), Instant.now());
        assertThat(book.find(one.id()).orElseThrow().progress().takenBy())
                .isEqualTo(person("other").id());
    }
}
