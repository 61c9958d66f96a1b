package app.morvet.ground.base;

import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * What is done in a transaction of its own: it stays, whatever becomes of the one that is running. For classes that are asked for all
 * the time, which an annotation on a few of their methods would wrap as a whole.
 */
@Component
public class OwnTransaction {
    private final TransactionTemplate transaction;

    OwnTransaction(PlatformTransactionManager transactions) {
        this.transaction = new TransactionTemplate(transactions);
        transaction.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    }

    public void run(Runnable work) {
        transaction.executeWithoutResult(status -> work.run());
    }
}
