package app.morvet.journey;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;

/** Of three nodes of Morvet each is killed in the middle of its work, and nothing that was acknowledged is lost. */
class PowerCutTest {
    @Test
    void noAcknowledgedEventAndNoQueuedHandoffIsLost() throws Exception {
        try (var house = House.open(3);
                var pages = new Pages(house.address())) {
            // A handoff waits, since the desk is down. The first case stands open beside the list.
            house.panel("/desk/down", "down", "true");
            var page = pages.logIn("analyst");
            page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Hand off"))
                    .click();
            page.getByText("Hand off through Service desk").click();
            until(() -> house.one("select failures from handoff").compareTo("0") > 0);

            // Events stream in while the power goes, three times at another moment.
            List<Integer> acknowledged = Collections.synchronizedList(new ArrayList<>());
            var sending = new AtomicBoolean(true);
            var sender = Thread.ofPlatform().start(() -> {
                for (int number = 0; sending.get(); number++) {
                    try {
                        var answer = house.send(
                                number % 3,
                                "[" + house.failed("booking-settlement", "cut-" + number, "no answer", "text/plain", "")
                                        + "]");
                        if (answer.statusCode() == 202) acknowledged.add(number);
                        else Thread.sleep(50);
                    } catch (IOException gone) {
                        pause();
                    } catch (InterruptedException stop) {
                        return;
                    }
                }
            });
            for (int cut = 0; cut < 3; cut++) {
                int before = acknowledged.size();
                until(() -> acknowledged.size() > before + 40);
                house.kill(cut);
                int without = acknowledged.size();
                until(() -> acknowledged.size() > without + 20);
                house.startAgain(cut);
                house.untilReady();
            }
            sending.set(false);
            sender.join();

            var stored =
                    Integer.parseInt(house.one("select count(*) from failed_message where event_id like '%-cut-%'"));
            var missing = new ArrayList<Integer>();
            for (int number : acknowledged) {
                if (house.one("select 1 from failed_message where event_id = 'booking-settlement-cut-" + number + "'")
                        .isEmpty()) missing.add(number);
            }
            assertThat(missing).isEmpty();
            assertThat(stored).isGreaterThanOrEqualTo(acknowledged.size());
            until(() -> house.one(
                            "select failures >= 1 from work_case c join component i on i.id = c.component_id where i.key = 'booking-settlement' and c.state <> 'SETTLED'")
                    .equals("t"));

            // The desk comes back: the handoff arrives, and it arrives once.
            house.panel("/desk/down", "down", "false");
            house.one(
                    "update scheduled_tasks set execution_time = now() where task_name = 'handoff-sending' returning 1");
            until(() -> house.one("select state from handoff").equals("SENT"));
            assertThat(house.get(house.standIn("/desk")).body())
                    .containsOnlyOnce("id=\"SD-4101\"")
                    .doesNotContain("SD-4102");
        }
    }

    /** While the power is away nobody asks as fast as can be: that would only keep it from coming back. */
    private static void pause() {
        try {
            Thread.sleep(50);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }

    private interface Check {
        boolean holds() throws Exception;
    }

    private static void until(Check check) throws Exception {
        var end = Instant.now().plusSeconds(120);
        while (!check.holds()) {
            assertThat(Instant.now()).as("it does not come to hold").isBefore(end);
            Thread.sleep(50);
        }
    }
}
