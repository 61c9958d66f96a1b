package app.morvet.ground.nodes;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/** What is told in a transaction is heard when that commits, once, and never when it does not. */
class NoticesTest extends MorvetTest {
    private final String kind = "of-a-test-" + UUID.randomUUID();
    private final List<String> heard = new CopyOnWriteArrayList<>();

    @Autowired
    private Notices notices;

    @Autowired
    private PlatformTransactionManager transactions;

    private int looks;
    private TransactionTemplate transaction;
    private TransactionTemplate another;

    @BeforeEach
    void listen() {
        transaction = new TransactionTemplate(transactions);
        another = new TransactionTemplate(transactions);
        another.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        notices.hear(kind, what -> {
            if (!what.isEmpty()) heard.add(what);
        });
    }

    /** All that was told until now and has been heard; what arrives together is passed on once, so each look waits for its own end. */
    private List<String> allHeard() throws Exception {
        var end = "end-" + ++looks;
        notices.tell(kind, end);
        eventually(() -> assertThat(heard).endsWith(end));
        return heard.stream().filter(one -> !one.startsWith("end-")).toList();
    }

    @Test
    void whatIsToldTwiceInATransactionIsHeardOnceAndInTheNextAgain() throws Exception {
        transaction.executeWithoutResult(status -> {
            notices.tell(kind, "a");
            notices.tell(kind, "b");
            notices.tell(kind, "a");
        });
        assertThat(allHeard()).containsExactly("a", "b");
        transaction.executeWithoutResult(status -> notices.tell(kind, "a"));
        assertThat(allHeard()).containsExactly("a", "b", "a");
    }

    @Test
    void whatIsRolledBackIsHeardOfNobodyAndKeepsNoOtherFromBeingTold() throws Exception {
        transaction.executeWithoutResult(status -> {
            notices.tell(kind, "a");
            status.setRollbackOnly();
        });
        assertThat(allHeard()).isEmpty();
        transaction.executeWithoutResult(status -> notices.tell(kind, "a"));
        assertThat(allHeard()).containsExactly("a");
    }

    @Test
    void aTransactionWithinAnotherTellsForItself() throws Exception {
        transaction.executeWithoutResult(status -> {
            notices.tell(kind, "a");
            another.executeWithoutResult(inner -> notices.tell(kind, "a"));
            heardBy("a");
            notices.tell(kind, "a");
            another.executeWithoutResult(inner -> {
                notices.tell(kind, "lost");
                inner.setRollbackOnly();
            });
            notices.tell(kind, "b");
            notices.tell(kind, "lost");
        });
        assertThat(allHeard()).containsExactly("a", "a", "b", "lost");
    }

    private void heardBy(String last) {
        try {
            eventually(() -> assertThat(heard).endsWith(last));
        } catch (Exception interrupted) {
            throw new IllegalStateException(interrupted);
        }
    }
}
