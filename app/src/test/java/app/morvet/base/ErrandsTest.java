package app.morvet.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import app.morvet.MorvetTest;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Work that is put down while the same work is under way. */
class ErrandsTest extends MorvetTest {
    @Autowired
    Errands errands;

    @Test
    void oneThatANodeWasAtWhenItDiedIsLeftToBeRevived() {
        var later = Instant.now().plus(Duration.ofDays(1));
        errands.at(later, "doubt-guards", "987654321");
        jdbc.sql(
                        "update scheduled_tasks set picked = true, picked_by = 'dead', last_heartbeat = now() where task_instance = '987654321'")
                .update();
        try {
            assertThatCode(() -> errands.at(Instant.now(), "doubt-guards", "987654321"))
                    .doesNotThrowAnyException();
            errands.unlessWaiting(Instant.now(), "doubt-guards", "987654321");
            assertThat(jdbc.sql("select count(*) from scheduled_tasks where task_instance = '987654321' and picked")
                            .query(Long.class)
                            .single())
                    .isEqualTo(1);
        } finally {
            jdbc.sql("delete from scheduled_tasks where task_instance = '987654321'")
                    .update();
        }
    }
}
