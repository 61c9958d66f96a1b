package app.morvet.ground.base;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.task.ExecutionComplete;
import com.github.kagkarlsson.scheduler.task.ExecutionOperations;
import com.github.kagkarlsson.scheduler.task.TaskInstanceId;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Stream;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Where work on the outside world is put down, in the very transaction that wants it done. What is wanted of an errand while it is
 * being run, here or on a node that has died in the middle of it, is kept beside it and done after it: it cannot know whether that
 * run has seen what it is wanted for.
 */
@Component
public class Errands {
    /** An errand that waits longer than this begins after the transaction that wants it has ended. */
    private static final Duration FAR = Duration.ofSeconds(10);

    private final SchedulerClient client;
    private final JdbcClient jdbc;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final AtomicLong changes = new AtomicLong();

    Errands(SchedulerClient client, JdbcClient jdbc, TransactionTemplate transaction, Clock clock) {
        this.client = client;
        this.jdbc = jdbc;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** Has an errand run at an instant; one that is waiting already for the same id is moved there. */
    public void at(Instant at, String errand, String id) {
        put("excluded.execution_time", at, errand, id);
    }

    /** Has an errand run at an instant, unless it is waiting already for the same id. */
    public void unlessWaiting(Instant at, String errand, String id) {
        // Most wait for long: their rows need not be locked until this transaction ends.
        var waits = jdbc.sql(
                        """
                        select 1 from scheduled_tasks
                        where task_name = :errand and task_instance = :id and not picked and execution_time > :far
                        """)
                .param("errand", errand)
                .param("id", id)
                .param("far", Stamp.of(clock.instant().plus(FAR)))
                .query(Integer.class)
                .optional();
        if (waits.isEmpty()) put("kept.execution_time", at, errand, id);
    }

    /** The row is as db-scheduler makes it; its end waits for the lock on it, so that no wish comes too late for it. */
    private void put(String waiting, Instant at, String errand, String id) {
        changes.incrementAndGet();
        jdbc.sql(
                        """
                        insert into scheduled_tasks as kept (task_name, task_instance, execution_time, picked, version)
                        values (:errand, :id, :at, false, 1)
                        on conflict (task_name, task_instance) do update set
                            execution_time = case when kept.picked then kept.execution_time else %s end,
                            wanted_at = case when kept.picked then least(kept.wanted_at, excluded.execution_time) end,
                            version = case when kept.picked then kept.version else kept.version + 1 end
                        """
                                .formatted(waiting))
                .param("errand", errand)
                .param("id", id)
                .param("at", Stamp.of(at))
                .update();
    }

    /**
     * Ends a run of an errand: it comes again when the run asks for that or when it was wanted meanwhile, whichever is
     * sooner.
     */
    void end(ExecutionComplete done, Optional<Instant> again, ExecutionOperations<Void> operations) {
        var instance = done.getExecution().taskInstance;
        transaction.executeWithoutResult(status -> {
            var wanted = jdbc.sql(
                            """
                            with meanwhile as (
                                select wanted_at from scheduled_tasks
                                where task_name = :errand and task_instance = :id for update)
                            update scheduled_tasks set wanted_at = null from meanwhile
                            where task_name = :errand and task_instance = :id returning meanwhile.wanted_at
                            """)
                    .param("errand", instance.getTaskName())
                    .param("id", instance.getId())
                    .query((row, number) -> Optional.ofNullable(Stamp.orNull(row, "wanted_at")))
                    .optional()
                    .flatMap(it -> it);
            Stream.of(again, wanted)
                    .flatMap(Optional::stream)
                    .min(Comparator.naturalOrder())
                    .ifPresentOrElse(next -> operations.reschedule(done, next), operations::remove);
        });
    }

    /** An errand that waits. */
    public record Due(String errand, String id, Instant at) {}

    /** When the first of some errands that waits is due. */
    public Optional<Instant> first(List<String> errands) {
        return jdbc.sql("select min(execution_time) as at from scheduled_tasks where task_name = any(:errands::text[])")
                .param("errands", errands.toArray(String[]::new))
                .query((row, number) -> Optional.ofNullable(Stamp.orNull(row, "at")))
                .single();
    }

    /** How many times an errand was put down or taken back here: as long as it stays so, nobody need look again what waits. */
    public long changes() {
        return changes.get();
    }

    /** What waits of an errand and is due at an instant, the first first: for a past that is gone through. */
    public List<Due> due(String errand, Instant until) {
        var due = new ArrayList<Due>();
        client.fetchScheduledExecutionsForTask(errand, Void.class, one -> {
            if (!one.getExecutionTime().isAfter(until))
                due.add(new Due(errand, one.getTaskInstance().getId(), one.getExecutionTime()));
        });
        due.sort(Comparator.comparing(Due::at));
        return due;
    }

    /** Takes back an errand that waits. */
    public void takeBack(Due one) {
        changes.incrementAndGet();
        client.cancel(TaskInstanceId.of(one.errand(), one.id()));
    }
}
