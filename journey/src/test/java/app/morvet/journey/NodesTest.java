package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Three nodes on one database: each takes in and shows, each guard is judged once, and when one dies the others go on. */
class NodesTest {
    private static final int NODES = 3;

    @Test
    void eachGuardIsJudgedOnceAndJudgedOnWhenItsNodeDies() throws Exception {
        try (var house = House.open(NODES);
                var onTheSecond = new Pages(house.address(1));
                var onTheThird = new Pages(house.address(2))) {
            until(() -> holders(house).equals("3"));
            var begun = house.now();
            long guard = guardOverAllInterfaces(house, onTheSecond.logIn("lead"));
            var cases = new CasePage(onTheThird.logIn("analyst"));
            var interfaces = List.of(
                    house.one("select string_agg(key, ',' order by key) from component where kind = 'interface'")
                            .split(","));

            // What each node takes in counts in one guard, and the page of the third shows it by itself.
            fail(house, interfaces, "first", List.of(0, 1, 2, 0));
            var told = Instant.now();
            assertThat(cases.row("on Departures to displays")).isVisible();
            System.out.printf("seen on a page of another node after %d ms%n", since(told));
            until(() -> up(house, guard, "WARNING") == interfaces.size());

            // The node dies that makes alerts of failures; it judges a third of the interfaces, too.
            int dead = Integer.parseInt(
                    house.one("select substr(split_part(holder, '/', 1), 5) from lease where name = 'failures'"));
            house.kill(dead);
            var killed = Instant.now();
            var alive = List.of((dead + 1) % NODES, (dead + 2) % NODES);
            fail(house, interfaces, "second", alive);
            fail(house, interfaces, "third", alive);
            until(() -> up(house, guard, "CRITICAL") == interfaces.size());
            System.out.printf("all is judged by the other two %d ms after the kill%n", since(killed));

            assertThat(house.one("select count(*) from alert where origin_kind = 'guard' and origin_id = " + guard))
                    .as("alerts of the guard")
                    .isEqualTo("" + interfaces.size());
            until(() -> house.one("select count(*) from untold_failure").equals("0"));
            assertThat(house.one("select coalesce(max(n), 0) from (select count(*) n from work_case"
                            + " where state <> 'SETTLED' group by component_id, topic) each_topic"))
                    .as("open cases of one interface about one thing")
                    .isEqualTo("1");
            mailsComeAtMostOnceAgain(house, begun);

            // It comes back and is given its share.
            house.startAgain(dead);
            house.untilReady();
            until(() -> holders(house).equals("3"));
        }
    }

    private static long guardOverAllInterfaces(House house, Page lead) throws SQLException {
        lead.navigate("/guards/new");
        lead.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("A few within ten minutes");
        lead.getByLabel("Name or pattern").fill("*");
        lead.getByLabel("Length of the window").fill("10 min");
        lead.getByLabel("Warning limit", new Page.GetByLabelOptions().setExact(true))
                .fill("3");
        lead.getByLabel("Critical limit", new Page.GetByLabelOptions().setExact(true))
                .fill("6");
        lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        assertThat(lead.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("A few within ten minutes")))
                .isVisible();
        return Long.parseLong(house.one("select id from guard where name = 'A few within ten minutes'"));
    }

    /** One message of each interface fails on each of some nodes. */
    private static void fail(House house, List<String> interfaces, String name, List<Integer> nodes) throws Exception {
        for (int i = 0; i < nodes.size(); i++) {
            int number = i;
            var events = interfaces.stream()
                    .map(one -> house.failed(one, name + "-" + number, "no answer from the quay", "text/plain", ""))
                    .collect(Collectors.joining(",", "[", "]"));
            assertThat(house.send(nodes.get(i), events).statusCode()).isEqualTo(202);
        }
    }

    private static int up(House house, long guard, String level) throws SQLException {
        return Integer.parseInt(
                house.one("select count(*) from alert where origin_kind = 'guard' and cleared_at is null"
                        + " and origin_id = " + guard + " and level = '" + level + "'"));
    }

    private static String holders(House house) throws SQLException {
        return house.one("select count(distinct holder) from lease"
                + " where name = 'guards' and until > clock_timestamp() having count(*) = 60");
    }

    /** A mail that is sent anew after a crash is known by its Message-ID. */
    private static void mailsComeAtMostOnceAgain(House house, Instant begun) throws Exception {
        var ids = Pattern.compile(", as (&lt;.*?&gt;)")
                .matcher(house.get(house.standIn("/mailbox")).body())
                .results()
                .map(one -> one.group(1))
                .toList();
        assertThat(ids).isNotEmpty();
        ids.stream()
                .collect(Collectors.groupingBy(Function.identity(), Collectors.counting()))
                .forEach((id, times) -> assertThat(times).as(id).isLessThanOrEqualTo(2));
        assertThat(house.one("select coalesce(max(n), 0) from (select count(*) n from delivery"
                        + " where about = 'OPENED' and made_at > '" + begun
                        + "' group by case_id, recipient) each_case"))
                .as("mails about one case")
                .isEqualTo("1");
    }

    private static long since(Instant then) {
        return Duration.between(then, Instant.now()).toMillis();
    }

    private interface Check {
        boolean holds() throws Exception;
    }

    private static void until(Check check) throws Exception {
        var end = Instant.now().plusSeconds(90);
        while (!check.holds()) {
            assertThat(Instant.now()).as("it does not come to hold").isBefore(end);
            Thread.sleep(50);
        }
    }
}
