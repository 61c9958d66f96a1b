package app.morvet.ground.base;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import javax.sql.DataSource;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Primary;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;

/** db-scheduler, so set up that work is put down in the running transaction and a dead node's work goes on in seconds. */
@Configuration(proxyBeanMethods = false)
class SchedulerConfiguration {
    private static final int AT_ONCE = 32;
    private static final Duration FULL = Duration.ofSeconds(1);

    /** For looking at what waits; the scheduler is a client as well, but of its own transactions. */
    @Bean
    @Primary
    SchedulerClient schedulerClient(DataSource dataSource) {
        return SchedulerClient.Builder.create(new TransactionAwareDataSourceProxy(dataSource))
                .build();
    }

    @Bean(destroyMethod = "stop")
    Scheduler scheduler(DataSource dataSource, List<Errand> errands, Errands wishes, Clock clock) {
        var tasks = new ArrayList<Task<?>>();
        errands.forEach(errand -> tasks.add(task(errand, wishes, clock)));
        return Scheduler.create(new TransactionAwareDataSourceProxy(dataSource), tasks)
                .clock(clock::instant)
                // They wait for the outside most of the time, and one that waits long may hold up no others.
                .threads(AT_ONCE)
                // Never more than that, however many are due: each may want a connection to the store.
                .executorService(Executors.newFixedThreadPool(
                        AT_ONCE, Thread.ofVirtual().name("errand-", 1).factory()))
                .pollingInterval(Duration.ofMillis(500))
                .heartbeatInterval(Duration.ofSeconds(2))
                .missedHeartbeatsLimit(4)
                .shutdownMaxWait(Duration.ofSeconds(5))
                .build();
    }

    private static Task<Void> task(Errand errand, Errands wishes, Clock clock) {
        var places = new Semaphore(errand.atOnce());
        return Tasks.custom(errand.name(), Void.class)
                .onFailureReschedule(FixedDelay.of(Duration.ofSeconds(30)))
                .onDeadExecutionRevive()
                .execute((instance, context) -> {
                    if (!places.tryAcquire())
                        return (done, operations) ->
                                operations.reschedule(done, clock.instant().plus(FULL));
                    Optional<Instant> again;
                    try {
                        again = errand.run(instance.getId());
                    } finally {
                        places.release();
                    }
                    return (done, operations) -> wishes.end(done, again, operations);
                });
    }

    @EventListener
    void start(ApplicationReadyEvent ready) {
        ready.getApplicationContext().getBean(Scheduler.class).start();
    }
}
