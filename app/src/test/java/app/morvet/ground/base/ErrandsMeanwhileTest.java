package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.exceptions.ExecutionException;
import com.github.kagkarlsson.scheduler.task.Execution;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import java.lang.reflect.Proxy;
import java.time.Instant;
import java.util.ArrayList;
import org.junit.jupiter.api.Test;

/** An errand that is begun or done just when it is to be moved: whoever wanted it is not told of that. */
class ErrandsMeanwhileTest {
    private static final Instant AT = Instant.parse("2027-03-18T02:38:00Z");

    @Test
    void whatWasTouchedBetweenTheLookAndTheMoveIsAskedForOnceMore() {
        var asked = new ArrayList<String>();
        var client = (SchedulerClient) Proxy.newProxyInstance(
                SchedulerClient.class.getClassLoader(),
                new Class<?>[] {SchedulerClient.class},
                (proxy, method, words) -> {
                    asked.add(method.getName());
                    if (method.getName().equals("reschedule"))
                        throw new ExecutionException(
                                "updated 0", new Execution(AT, new TaskInstance<Void>("errand", "one")));
                    return false;
                });
        new Errands(client).at(AT, "errand", "one");
        assertThat(asked).containsExactly("scheduleIfNotExists", "reschedule", "scheduleIfNotExists");
    }
}
