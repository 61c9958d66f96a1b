package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.messages.FailedMessage;
import app.morvet.sources.messages.MessageIntake;
import app.morvet.sources.messages.MessagesArrived;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.Ordered;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;

/** A failed message counts once in a guard, whether its guard reads it from the store, hears of it, or both. */
class CountedOnceTest extends MorvetTest {
    @Autowired
    private MessageIntake messages;

    @Autowired
    private TransactionTemplate transaction;

    private MessagesArrived.Failed failed(Subject subject, Instant at) {
        return new MessagesArrived.Failed(
                UUID.randomUUID().toString(),
                subject.id(),
                subject.key(),
                new FailedMessage(
                        at, "", "BK", "deliver", "no answer", Map.of(), "text/plain", "x", null, List.of(), List.of()));
    }

    /** Done right after the commit, before anybody else hears of what was stored. */
    private static void firstAfterCommit(Check check) {
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public int getOrder() {
                return Ordered.HIGHEST_PRECEDENCE;
            }

            @Override
            public void afterCommit() {
                var other = Thread.ofPlatform().start(() -> {
                    try {
                        check.run();
                    } catch (Exception failed) {
                        throw new IllegalStateException(failed);
                    }
                });
                try {
                    other.join();
                } catch (InterruptedException stop) {
                    Thread.currentThread().interrupt();
                }
            }
        });
    }

    private String headline(Subject subject) {
        return caseOf(subject).get("headline").toString();
    }

    @Test
    void whatTheStoreHadIsNotCountedAgainHoweverLateItIsHeardOf() throws Exception {
        var subject = subject();
        long feed = estate.feeds().getFirst().id();
        var now = Instant.now();
        var storing = messages.arriving(new MessagesArrived(
                feed, IntStream.range(0, 3).mapToObj(i -> failed(subject, now)).toList(), List.of(), List.of()));
        transaction.executeWithoutResult(status -> {
            storing.run();
            // Meanwhile a guard begins to stand over it, and reads what is stored.
            firstAfterCommit(() -> {
                guard(subject, Duration.ofMinutes(10));
                eventually(() -> assertThat(headline(subject)).startsWith("3 failed in the last 10 min"));
            });
        });
        fail(subject, 1);
        eventually(() -> assertThat(headline(subject)).startsWith("4 failed in the last 10 min"));
        assertThat(caseOf(subject)).containsEntry("severity", "WARNING").containsEntry("failures", 4L);
    }

    @Test
    void allThatFailAtTheSameInstantCount() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        long feed = estate.feeds().getFirst().id();
        var now = Instant.now();
        for (int i = 0; i < 2; i++) {
            var storing = messages.arriving(new MessagesArrived(
                    feed,
                    IntStream.range(0, 2).mapToObj(each -> failed(subject, now)).toList(),
                    List.of(),
                    List.of()));
            transaction.executeWithoutResult(status -> storing.run());
        }
        eventually(() -> assertThat(headline(subject)).startsWith("4 failed in the last 10 min"));
    }
}
