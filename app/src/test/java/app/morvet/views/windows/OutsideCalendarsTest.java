package app.morvet.views.windows;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.alerting.windows.OutsideCalendars;
import app.morvet.alerting.windows.OutsideCalendars.Event;
import app.morvet.alerting.windows.OutsideCalendars.State;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What calendars of others plan becomes windows, moves and goes with them; what fits no rule waits for somebody. */
class OutsideCalendarsTest extends MorvetTest {
    private static final DateTimeFormatter STAMP =
            DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

    @Autowired
    private OutsideCalendars calendars;

    @Autowired
    private Connections connections;

    @Autowired
    private Windows windows;

    private final String mark = "cal" + UUID.randomUUID().toString().substring(0, 8);
    private final Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
    private Browser lead;
    private Connection calendar;

    @BeforeEach
    void aCalendarThatIsFetched() throws Exception {
        setUpOnce();
        estate.add(mark, "The " + mark, "host", null);
        lead = loggedIn("lead");
        DESK.answer("/" + mark, 200, file());
        assertThat(post(
                                "new",
                                "name=" + mark + "&everySeconds=900&url="
                                        + Browser.encoded("http://127.0.0.1:" + DESK.port() + "/" + mark))
                        .statusCode())
                .isEqualTo(302);
        calendar = connections.byKey(OutsideCalendars.SORT, mark).orElseThrow();
        // It is fetched once by itself; from then on a test says when.
        eventually(() -> assertThat(calendars.look(calendar.id())).isPresent());
        rule("words=" + mark + "&effect=HOLD&pattern=" + mark + "&onIt=yes&told=1+day");
    }

    private java.net.http.HttpResponse<String> post(String path, String form) throws Exception {
        return lead.post("/windows/calendars/" + path, form);
    }

    private void rule(String form) throws Exception {
        int version = calendars.find(calendar.id()).orElseThrow().version();
        assertThat(post(calendar.id() + "/rules", form + "&version=" + version).statusCode())
                .isEqualTo(302);
    }

    private String event(String uid, String title, int from, int minutes, String... more) {
        return "BEGIN:VEVENT\r\nUID:%s\r\nDTSTAMP:%s\r\nDTSTART:%s\r\nDURATION:PT%dM\r\nSUMMARY:%s\r\n%sEND:VEVENT\r\n"
                .formatted(
                        uid,
                        STAMP.format(now),
                        STAMP.format(now.plus(Duration.ofMinutes(from))),
                        minutes,
                        title,
                        String.join("", more));
    }

    private static String file(String... events) {
        return "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//test//EN\r\n" + String.join("", events)
                + "END:VCALENDAR\r\n";
    }

    private void says(String... events) {
        DESK.answer("/" + mark, 200, file(events));
        calendars.run("" + calendar.id());
    }

    private Event only() {
        assertThat(calendars.events(calendar.id())).hasSize(1);
        return calendars.events(calendar.id()).getFirst();
    }

    private StoredWindow window() {
        return windows.find(only().window()).orElseThrow();
    }

    private List<Instant> next() {
        return window().window().plan().next(now, 9).stream()
                .map(it -> it.span().from())
                .toList();
    }

    @Test
    void anEventThatFitsARuleIsAWindowMovesAndIsTakenBack() throws Exception {
        says(event("a", "Firmware " + mark, 60, 30));
        assertThat(only().state()).isEqualTo(State.WINDOW);
        assertThat(window().told()).isEqualTo(Duration.ofDays(1));
        assertThat(windows.sentence(window()))
                .contains("hold call-outs for The " + mark + " with all that stands on it")
                .contains("Its teams are told 1 day before");
        says(event("a", "Firmware " + mark, 90, 30));
        assertThat(next()).containsExactly(now.plus(Duration.ofMinutes(90)));
        long id = only().window();
        says();
        assertThat(only().state()).isEqualTo(State.GONE);
        assertThat(windows.all()).noneMatch(one -> one.id() == id);
        // It is planned again: another window.
        says(event("a", "Firmware " + mark, 120, 30));
        assertThat(only().state()).isEqualTo(State.WINDOW);
        assertThat(only().window()).isNotEqualTo(id);
    }

    @Test
    void whatIsCancelledWhileItIsOnEndsAndWhatIsPastStays() throws Exception {
        says(event("a", "Firmware " + mark, -10, 60));
        var one = window();
        assertThat(one.window().plan().isOver(Instant.now())).isFalse();
        says(event("a", "Firmware " + mark, -10, 60, "STATUS:CANCELLED\r\n"));
        assertThat(windows.find(one.id())
                        .orElseThrow()
                        .window()
                        .plan()
                        .isOver(Instant.now().plusSeconds(1)))
                .isTrue();
        says(event("b", "Firmware " + mark, -60, 30));
        assertThat(calendars.events(calendar.id())).noneMatch(it -> it.uid().equals("b"));
    }

    /** What somebody did to the window by hand holds until the calendar says something else. */
    @Test
    void whatIsChangedByHandStaysUntilTheCalendarSaysSomethingElse() throws Exception {
        says(event("a", "Firmware " + mark, 60, 30));
        var one = window();
        windows.lengthen(one.id(), one.version(), Duration.ofMinutes(30), person("lead"));
        says(event("a", "Firmware " + mark, 60, 30));
        assertThat(window().window().plan().length()).isEqualTo(Duration.ofMinutes(60));
        says(event("a", "Firmware " + mark, 60, 45));
        assertThat(window().window().plan().length()).isEqualTo(Duration.ofMinutes(45));
    }

    @Test
    void whatFitsNoRuleWaitsIsAssignedOrLeftOut() throws Exception {
        says(event("a", "Crane", 60, 30), event("b", "Lunch", 60, 30), event("c", "Diving", 60, 30));
        assertThat(calendars.events(calendar.id())).allMatch(one -> one.state() == State.WAITS);
        var list = lead.page("/windows/calendars");
        assertThat(list.select("tr:contains(" + mark + ") td.num").eachText()).containsExactly("0", "3");
        assertThat(list.text()).contains("They fit no rule and wait to be assigned", "Crane");
        assertThat(lead.page("/windows").text()).contains("to assign");
        var path = calendar.id() + "/event";
        // Nothing chosen would be everything.
        assertThat(post(path, "uid=a&effect=PAUSE").body()).contains("Say over what it is; what somebody else plans");
        assertThat(post(path, "uid=a&effect=PAUSE&pattern=" + mark).statusCode())
                .isEqualTo(302);
        assertThat(post(path, "uid=b&leaveOut=yes").statusCode()).isEqualTo(302);
        assertThat(post(path, "uid=a&effect=PAUSE&pattern=" + mark).body()).contains("It is a window already.");
        assertThat(states()).containsEntry("a", State.WINDOW).containsEntry("b", State.LEFT_OUT);
        // A rule that comes later takes what still waits, and nothing else.
        rule("words=&effect=HOLD&pattern=" + mark);
        assertThat(states()).containsEntry("b", State.LEFT_OUT).containsEntry("c", State.WINDOW);
        assertThat(lead.page("/windows/calendars/" + calendar.id())
                        .select("ol li")
                        .eachText())
                .hasSize(2)
                .anyMatch(it -> it.startsWith("Of all else, hold call-outs for The " + mark));
    }

    private Map<String, State> states() {
        return calendars.events(calendar.id()).stream()
                .collect(java.util.stream.Collectors.toMap(Event::uid, Event::state));
    }

    @Test
    void aRuleIsPutUpAndTakenAwayAndTheFirstThatFitsCounts() throws Exception {
        rule("words=firmware&effect=PAUSE&pattern=" + mark);
        int version = calendars.find(calendar.id()).orElseThrow().version();
        assertThat(post(calendar.id() + "/rules/1", "up=yes&version=" + version).statusCode())
                .isEqualTo(302);
        says(event("a", "FIRMWARE " + mark, 60, 30));
        assertThat(window().window().pauses()).isTrue();
        assertThat(post(calendar.id() + "/rules/0", "version=" + version).body())
                .contains("Somebody else changed");
        assertThat(post(calendar.id() + "/rules/0", "version=" + (version + 1)).statusCode())
                .isEqualTo(302);
        assertThat(calendars.rules(calendars.find(calendar.id()).orElseThrow())).hasSize(1);
        assertThat(only().state()).isEqualTo(State.WINDOW);
    }

    /** A calendar that fails, or of which one event cannot be read today, takes nothing back. */
    @Test
    void whatCannotBeReadTakesNothingBack() throws Exception {
        says(event("a", "Firmware " + mark, 60, 30));
        DESK.answer("/" + mark, 200, "<html>sign in</html>");
        calendars.run("" + calendar.id());
        assertThat(only().state()).isEqualTo(State.WINDOW);
        assertThat(lead.page("/windows/calendars")
                        .select("tr:contains(" + mark + ")")
                        .text())
                .contains("no iCalendar");
        DESK.answer("/" + mark, 503, "");
        calendars.run("" + calendar.id());
        assertThat(only().state()).isEqualTo(State.WINDOW);
        says("BEGIN:VEVENT\r\nUID:a\r\nDTSTAMP:20270101T000000Z\r\nSUMMARY:Firmware\r\nEND:VEVENT\r\n");
        assertThat(only().state()).isEqualTo(State.WINDOW);
        assertThat(lead.page("/windows/calendars/" + calendar.id()).text())
                .contains("\"Firmware\" is left out: it has no DTSTART.");
    }

    @Test
    void aFileIsGivenInsteadAndAnAnalystOnlyLooks() throws Exception {
        assertThat(post("new", "name=by+hand+" + mark + "&everySeconds=900&url=")
                        .statusCode())
                .isEqualTo(302);
        long id = connections
                .byKey(OutsideCalendars.SORT, "by hand " + mark)
                .orElseThrow()
                .id();
        assertThat(post(id + "/file", "text=" + Browser.encoded(file(event("a", "Crane", 60, 30))))
                        .statusCode())
                .isEqualTo(302);
        assertThat(calendars.events(id)).singleElement().satisfies(one -> assertThat(one.title())
                .isEqualTo("Crane"));
        assertThat(post(id + "/file", "text=nothing").body()).contains("no iCalendar");
        assertThat(post("new", "name=x&everySeconds=5&url=").body())
                .contains("It is fetched every 60 to 86400 seconds.");
        assertThat(post("new", "name=x&everySeconds=900&url=" + Browser.encoded("http://192.0.2.9/x"))
                        .body())
                .contains("Add it to morvet.outgoing");
        var analyst = loggedIn("analyst");
        assertThat(analyst.page("/windows/calendars/" + id).select("form.sheet"))
                .isEmpty();
        assertThat(analyst.post("/windows/calendars/" + id + "/event", "uid=a&leaveOut=yes")
                        .statusCode())
                .isEqualTo(403);
    }
}
