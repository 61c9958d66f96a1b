package app.morvet.ground.base;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.exceptions.ExecutionException;
import com.github.kagkarlsson.scheduler.exceptions.TaskInstanceCurrentlyExecutingException;
import com.github.kagkarlsson.scheduler.exceptions.TaskInstanceNotFoundException;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import com.github.kagkarlsson.scheduler.task.TaskInstanceId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Where work on the outside world is put down, in the very transaction that wants it done. */
@Component
public class Errands {
    private static final Logger log = LoggerFactory.getLogger(Errands.class);

    private final SchedulerClient client;

    Errands(SchedulerClient client) {
        this.client = client;
    }

    /**
     * Has an errand run at an instant; one that is waiting already for the same id is moved there. One that is being run at
     * this moment, here or on a node that has died in the middle of it, is left alone: it is at it, or will be revived, and
     * is asked at its end whether it is {@linkplain Errand#wanted wanted} again.
     */
    public void at(Instant at, String errand, String id) {
        if (client.scheduleIfNotExists(new TaskInstance<Void>(errand, id), at)) return;
        try {
            client.reschedule(TaskInstanceId.of(errand, id), at);
        } catch (TaskInstanceCurrentlyExecutingException atIt) {
            log.debug("{} {} is being run", errand, id);
        } catch (TaskInstanceNotFoundException | ExecutionException meanwhile) {
            // It was done, or begun, between the look and the touch.
            client.scheduleIfNotExists(new TaskInstance<Void>(errand, id), at);
        }
    }

    /** Has an errand run at an instant, unless it is waiting already for the same id: for what begins with the application. */
    public void unlessWaiting(Instant at, String errand, String id) {
        client.scheduleIfNotExists(new TaskInstance<Void>(errand, id), at);
    }

    /** An errand that waits. */
    public record Due(String errand, String id, Instant at) {}

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
        client.cancel(TaskInstanceId.of(one.errand(), one.id()));
    }
}
