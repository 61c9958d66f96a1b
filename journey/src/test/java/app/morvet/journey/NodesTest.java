package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.parallel.ResourceLock;

/** Three nodes on one database: each takes in and shows, each guard is judged once, and when one dies the others go on. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
@ResourceLock(Lane.OWN)
class NodesTest {
    private static final int NODES = 3;
    private static final int STORM = 300;
    /** Open cases of it; its own, or that of its host where that is not heard after a leap of the clock. */
    private static final String OF_SEATS =
            """
            c.state <> 'SETTLED' and exists (select 1 from case_alert l join alert a on a.id = l.alert_id
                                              where l.case_id = c.id and a.origin_kind = 'guard'
                                                and a.origin_id = (select id from guard where name = 'Seats stopped'))""";

    private static final String SEATS = "select count(*) from work_case c where " + OF_SEATS;
    private static final String OF_STORM =
            """
            select count(*) from delivery d join work_case c on c.id = d.case_id join component i on i.id = c.component_id
             where i.key like 'storm-%' and d.about = 'OPENED' and d.way = 'MAIL'""";

    private House house;
    /** The first that dies and comes back, and the one that lives through it all; the third dies and stays away. */
    private int back;

    private int alone;

    @BeforeAll
    void open() throws Exception {
        house = House.open(NODES);
    }

    @AfterAll
    void close() {
        house.close();
    }

    @Test
    @Order(1)
    void eachGuardIsJudgedOnceAndJudgedOnWhenItsNodeDies() throws Exception {
        until(() -> holders(house).equals("3"));
        var begun = house.now();
        var onTheSecond = new Pages(house.address(1));
        var onTheThird = new Pages(house.address(2));
        long guard = guardOverAllInterfaces(house, onTheSecond.logIn("lead"));
        var cases = new CasePage(onTheThird.atCases("analyst"));
        var interfaces =
                List.of(house.one("select string_agg(key, ',' order by key) from component where kind = 'interface'")
                        .split(","));

        // What each node takes in counts in one guard, and the page of the third shows it by itself.
        fail(house, interfaces, "first", List.of(0, 1, 2, 0));
        var told = Instant.now();
        assertThat(cases.row("on Departures to displays")).isVisible();
        System.out.printf("seen on a page of another node after %d ms%n", since(told));
        for (var pages : List.of(onTheSecond, onTheThird)) pages.leave();
        until(() -> up(house, guard, "WARNING") == interfaces.size());

        // The node dies that makes alerts of failures; it judges a third of the interfaces, too.
        back = holderOf("failures");
        alone = (back + 1) % NODES;
        house.kill(back);
        var killed = Instant.now();
        var alive = List.of(alone, (back + 2) % NODES);
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
    }

    /** Before the dead one is back another dies, in the middle of its work: for a while the third is alone. */
    @Test
    @Order(2)
    void noAcknowledgedEventAndNoQueuedHandoffIsLost() throws Exception {
        // A handoff waits, since the desk is down. The first case stands open beside the list.
        house.panel("/desk/down", "down", "true");
        var onIt = new Pages(house.address(alone));
        var page = onIt.atCases("analyst");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Hand off"))
                .click();
        page.getByText("Hand off through Service desk").click();
        until(() -> house.one("select failures from handoff").compareTo("0") > 0);
        onIt.leave();

        // Events stream in while the power goes and comes back.
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
                } catch (IOException gone) {
                    // So it is not acknowledged.
                } catch (InterruptedException stop) {
                    return;
                }
                pause();
            }
        });
        int before = acknowledged.size();
        until(() -> acknowledged.size() > before + 40);
        house.kill((back + 2) % NODES);
        int without = acknowledged.size();
        until(() -> acknowledged.size() > without + 20);
        house.startAgain(back);
        house.untilReady();
        sending.set(false);
        sender.join();

        var stored = Set.of(house.one("select coalesce(string_agg(event_id, ','), '') from failed_message"
                        + " where event_id like 'booking-settlement-cut-%'")
                .split(","));
        assertThat(acknowledged.stream().map(number -> "booking-settlement-cut-" + number))
                .isNotEmpty()
                .allMatch(stored::contains);
        until(() -> house.one(
                        "select failures >= 1 from work_case c join component i on i.id = c.component_id where i.key = 'booking-settlement' and c.state <> 'SETTLED'")
                .equals("t"));

        // The desk comes back: the handoff arrives, and it arrives once.
        house.panel("/desk/down", "down", "false");
        house.one("update scheduled_tasks set execution_time = now() where task_name = 'handoff-sending' returning 1");
        until(() -> house.one("select state from handoff").equals("SENT"));
        assertThat(house.get(house.standIn("/desk")).body())
                .containsOnlyOnce("id=\"SD-4101\"")
                .doesNotContain("SD-4102");
    }

    /**
     * Hundreds of cases at once, and a node dies in the middle that holds what a window covers: of every case somebody hears, and what the
     * window holds is held on and is a case at its end.
     */
    @Test
    @Order(3)
    void ofEveryCaseOfAStormSomebodyHearsAndWhatAWindowHoldsIsNotLostThoughANodeDies() throws Exception {
        // The one that came back was given its share.
        until(() -> holders(house).equals("2"));
        var pages = new Pages(house.address(alone));
        var lead = pages.logIn("lead");
        guardForStorm(lead);
        ruleForStorm(lead);
        stoppedInAWindow(lead);
        // Open pages would follow each of hundreds of cases.
        pages.leave();
        for (int round = 0; round < 2; round++) {
            int of = round;
            for (int from = 0; from < STORM; from += 50) {
                var events = IntStream.range(from, from + 50)
                        .mapToObj(one ->
                                house.failed("storm-" + one, "s" + of, "no answer from the quay", "text/plain", ""))
                        .collect(Collectors.joining(",", "[", "]"));
                assertThat(house.send(round == 0 ? alone : back, events).statusCode())
                        .isEqualTo(202);
            }
        }
        until(() -> Integer.parseInt(house.one(OF_STORM)) > 20);
        int another = holderOf("windows");
        house.kill(another);
        System.out.printf("the node dies when %s of %d are to be told%n", house.one(OF_STORM), STORM);
        // What comes in one minute goes at its end in one message.
        house.later(Duration.ofSeconds(61));
        until(() -> house.one(OF_STORM + " and d.state = 'SENT'").equals("" + STORM));
        assertThat(house.one(OF_STORM)).as("nobody is told of two for one").isEqualTo("" + STORM);
        var arrived = Pattern.compile("case (\\d+)\\)")
                .matcher(house.get(house.standIn("/mailbox")).body())
                .results()
                .map(one -> one.group(1))
                .collect(Collectors.toSet());
        assertThat(Set.of(house.one(
                                "select string_agg(c.id::text, ',') from work_case c join component i on i.id = c.component_id"
                                        + " where i.key like 'storm-%'")
                        .split(",")))
                .hasSize(STORM)
                .allMatch(arrived::contains);

        var left = new Pages(house.address(another == alone ? back : alone));
        var page = left.logIn("analyst");
        for (var path : List.of("/shift", "/cases")) {
            var began = Instant.now();
            page.navigate(path);
            System.out.printf("%s in a browser with %d cases open: %d ms%n", path, STORM, since(began));
        }
        left.leave();

        assertThat(house.one(SEATS)).as("the window is on still").isEqualTo("0");
        // Not so far that of hundreds of cases all would be told that nobody takes them.
        house.later(Duration.ofMinutes(8));
        until(() -> house.one(SEATS).equals("1"));
        assertThat(house.one("select count(*) from case_entry e join work_case o on o.id = e.case_id"
                        // What explains it may be heard of after it.
                        + " join work_case c on c.id in (o.id, o.joined_to) where e.kind = 'window' and " + OF_SEATS))
                .as("it says that it began in the window")
                .isEqualTo("1");
    }

    /** A service stops while a window is on for it. */
    private void stoppedInAWindow(Page lead) throws Exception {
        lead.navigate("/guards/new?kind=state&measure=service&component=service&pattern=seat-map"
                + "&stateCritical=stopped&stateCriticalFor=0&calm=0");
        lead.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Seats stopped");
        lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        assertThat(lead.locator("#main")).containsText("Seats stopped");
        lead.navigate("/estate/components/seat-map");
        lead.getByLabel("Hold what it raises for").fill("8 min");
        lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Open a window"))
                .click();
        assertThat(lead.locator("#main")).containsText("on until");
        house.panel("/machines/seat-map/ail", "ailment", "STOPPED");
        house.later(Duration.ofSeconds(11));
        assertThat(lead.locator("#main")).containsText("Service on seat-map is stopped");
    }

    private static void guardForStorm(Page lead) {
        lead.navigate("/guards/new");
        lead.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Storm");
        lead.getByLabel("Name or pattern").fill("storm-*");
        lead.getByLabel("Length of the window").fill("10 min");
        lead.getByLabel("Warning limit", new Page.GetByLabelOptions().setExact(true))
                .fill("0.5");
        lead.getByLabel("Critical limit", new Page.GetByLabelOptions().setExact(true))
                .fill("1");
        lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        assertThat(lead.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Storm")))
                .isVisible();
    }

    private static void ruleForStorm(Page lead) {
        lead.navigate("/callouts/rules/new");
        lead.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Storm");
        lead.getByLabel("Name or pattern").fill("storm-*");
        lead.getByLabel("Step 1: who").selectOption("Minna Vesa");
        lead.getByLabel("Step 1: by").selectOption("by mail");
        lead.getByLabel("Step 2: who").selectOption("nobody further");
        assertThat(lead.locator("#rule-means")).containsText("named storm-* opens, tell Minna Vesa by mail.");
        lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        assertThat(lead.locator(".rules-in-order")).containsText("tell Minna Vesa by mail.");
        for (int above = 0; above < 3; above++)
            lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Move Storm up"))
                    .click();
    }

    /** Not as fast as can be: that would only keep the power from coming back. */
    private static void pause() {
        try {
            Thread.sleep(25);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
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

    /** The node that does what is done by one alone. */
    private int holderOf(String lease) throws SQLException {
        return Integer.parseInt(
                house.one("select substr(split_part(holder, '/', 1), 5) from lease where name = '" + lease + "'"));
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
        var end = Instant.now().plusSeconds(120);
        while (!check.holds()) {
            assertThat(Instant.now()).as("it does not come to hold").isBefore(end);
            Thread.sleep(50);
        }
    }
}
