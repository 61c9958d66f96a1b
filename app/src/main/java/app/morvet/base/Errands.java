package app.morvet.base;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import com.github.kagkarlsson.scheduler.task.TaskInstanceId;
import java.time.Instant;
import org.springframework.stereotype.Component;

/** Where work on the outside world is put down, in the very transaction that wants it done. */
@Component
public class Errands {
    private final SchedulerClient client;

    Errands(SchedulerClient client) {
        this.client = client;
    }

    /** Has an errand run at an instant; one that is waiting already for the same id is moved there. */
    public void at(Instant at, String errand, String id) {
        if (!client.scheduleIfNotExists(new TaskInstance<Void>(errand, id), at)) {
            client.reschedule(TaskInstanceId.of(errand, id), at);
        }
    }

    /** Has an errand run now, unless it is waiting already for the same id. */
    public void soon(String errand, String id) {
        client.scheduleIfNotExists(new TaskInstance<Void>(errand, id), Instant.now());
    }
}
