package app.morvet.views.teams;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.alerting.windows.WindowKeys;
import app.morvet.core.duty.Rota;
import app.morvet.core.duty.Turns;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.WorkCalendar;
import app.morvet.ground.access.People;
import app.morvet.ground.duty.Rotas;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Teams and their rotas as people set them, and that whoever is on duty is the one who is called. */
class TeamPagesTest extends ToldAlerts {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final AtomicInteger NUMBER = new AtomicInteger();

    @Autowired
    private People everybody;

    @Autowired
    private Rotas rotas;

    @Autowired
    private WindowKeys keys;

    private final LocalDate today = LocalDate.now(ZONE);
    private Subject host;
    private String team;
    private long otso;
    private long aino;
    private Browser lead;

    @BeforeEach
    void aTeamOfTwo() throws Exception {
        host = component("host");
        team = "team-" + host.key();
        otso = member("Otso");
        aino = member("Aino");
        lead = loggedIn("lead");
    }

    private long member(String name) {
        var login = host.key() + "-" + name.toLowerCase(java.util.Locale.ROOT) + NUMBER.incrementAndGet();
        long id =
                everybody.addMember(login, name + " of " + host.key(), login + "@sundrava.example", "+358 00 555 0101");
        rotas.join(host.team(), id, null);
        return id;
    }

    private String mail(long person) {
        return everybody.card(person).orElseThrow().mail();
    }

    private String name(long person) {
        return everybody.card(person).orElseThrow().person().name();
    }

    private java.net.http.HttpResponse<String> post(String path, String form) throws Exception {
        return lead.post("/estate/teams/" + team + path, form);
    }

    private String turns(String people, LocalDate from) {
        return "line=0&people=%s&count=1&every=WEEKS&at=00:00&from=%s&days=&zone=Europe/Helsinki"
                .formatted(Browser.encoded(people), from);
    }

    private void inTurn(long... people) {
        rotas.set(
                host.team(),
                rotas.of(host.team()).version(),
                ZONE,
                0,
                new Turns(
                        today.minusDays(1),
                        LocalTime.MIDNIGHT,
                        Turns.Every.WEEKS,
                        1,
                        Arrays.stream(people).boxed().toList(),
                        null),
                null);
    }

    @Test
    void aRotaIsSetAsItsSentenceWithItsGapsSaidBefore() throws Exception {
        var both = name(otso) + ", " + name(aino);
        var preview = post("/rota/preview", turns(both, today.plusDays(2))).body();
        assertThat(preview)
                .contains(
                        "first line: " + both + " in turns of 1 week, handed over at 00:00, from " + today.plusDays(2))
                .contains("In the first line nobody is on duty");
        assertThat(post("/rota", turns(both, today.minusDays(1)) + "&version=0").statusCode())
                .isEqualTo(302);
        assertThat(post("/rota", turns(both, today) + "&version=0").body()).contains("Somebody else changed this rota");
        assertThat(post("/rota/preview", turns(name(otso) + ", Somebody", today))
                        .body())
                .contains("&quot;Somebody&quot; is not of this team; it has Aino of " + host.key());
        assertThat(post("/rota/preview", turns(both, today).replace("count=1", "count=99"))
                        .body())
                .contains("A turn is 1 to 26 weeks.");
        var page = lead.page("/estate/teams/" + team);
        assertThat(page.select("#team-one").text()).contains("first line " + name(otso) + " +358 00 555 0101");
        assertThat(lead.page("/estate/teams")
                        .select("tr:contains(Team of " + host.key() + ")")
                        .text())
                .contains(name(otso));
    }

    @Test
    void whoCoversIsCalledAndWhoIsAwayLeavesAGap() throws Exception {
        inTurn(otso, aino);
        var login = everybody.card(aino).orElseThrow().person().login();
        var analyst = loggedIn("analyst");
        var from = LocalDateTime.now(ZONE).minusHours(1).withSecond(0).withNano(0);
        assertThat(analyst.post(
                                "/estate/teams/" + team + "/duty",
                                "person=" + login + "&what=0&from=" + from + "&to=" + from.plusHours(3))
                        .statusCode())
                .isEqualTo(302);
        assertThat(rotas.onDuty(host.team(), Instant.now()))
                .extracting(one -> one.person().id())
                .containsExactly(aino);
        assertThat(analyst.page("/estate/teams/" + team).text()).contains(name(aino) + " covers the first line");
        long change = rotas.of(host.team()).changes().getFirst().id();
        assertThat(analyst.post("/estate/teams/" + team + "/duty/" + change + "/back", "")
                        .statusCode())
                .isEqualTo(302);
        rotas.say(
                host.team(),
                new Rota.Change.Away(
                        otso, Instant.now().minusSeconds(60), Instant.now().plusSeconds(7200)),
                null);
        assertThat(rotas.onDuty(host.team(), Instant.now())).isEmpty();
        assertThat(analyst.page("/estate/teams/" + team).text()).contains("first line nobody", "nobody is on duty");
        assertThat(analyst.post("/estate/teams/" + team + "/duty", "person=" + login + "&what=0&from=x&to=y")
                        .body())
                .contains("&quot;x&quot; is no day and time.");
        // How turns are taken is for a lead.
        assertThat(analyst.post("/estate/teams/" + team + "/rota", turns(name(otso), today) + "&version=4")
                        .statusCode())
                .isEqualTo(403);
    }

    @Test
    void whoeverIsOnDutyIsToldAndHearsThatItIsOver() throws Exception {
        inTurn(aino);
        long guard = guard("critical");
        var minute = (int) Duration.between(T, Instant.now()).toMinutes();
        raised(guard, host, minute, CRITICAL, 9);
        eventually(
                () -> assertThat(MAIL.getReceivedMessagesForDomain(mail(aino))).hasSize(1));
        assertThat(MAIL.getReceivedMessagesForDomain(host.mail())).isEmpty();
        // Somebody else has taken over by the time that it is over; who was told of it hears so.
        rotas.say(
                host.team(),
                new Rota.Change.Covers(
                        otso, 0, Instant.now().minusSeconds(60), Instant.now().plusSeconds(7200)),
                null);
        var dossier = loggedIn("analyst").page("/cases/" + caseOf(host).get("id"));
        assertThat(dossier.select("section:has(h2:contains(Whom to call))").text())
                .contains("Team of " + host.key(), "first line " + name(otso), "+358 00 555 0101");
        cleared(guard, host, minute + 1, 9);
        eventually(() -> assertThat(jdbc.sql("select recipient from delivery where case_id = :id and about = 'OVER'")
                        .param("id", caseOf(host).get("id"))
                        .query(String.class)
                        .list())
                .containsExactly(mail(aino)));
    }

    @Test
    void whereNobodyIsOnDutyTheTeamIsTold() throws Exception {
        inTurn(otso);
        rotas.say(
                host.team(),
                new Rota.Change.Away(
                        otso,
                        Instant.now().minus(Duration.ofDays(9)),
                        Instant.now().plusSeconds(7200)),
                null);
        raised(guard("critical"), host, 0, CRITICAL, 9);
        eventually(
                () -> assertThat(MAIL.getReceivedMessagesForDomain(host.mail())).hasSize(1));
    }

    /** Whoever is switched off is on duty no more, and it shows as a gap. */
    @Test
    void whoIsSwitchedOffIsOnDutyNoMore() throws Exception {
        inTurn(otso);
        var card = everybody.card(otso).orElseThrow();
        everybody.change(new People.Card(card.person(), card.mail(), card.phone(), false), "", person("admin"));
        assertThat(rotas.onDuty(host.team(), Instant.now())).isEmpty();
        assertThat(lead.page("/estate/teams/" + team).text()).contains("nobody is on duty");
        assertThat(post("/members", "leave=true&person=" + aino).statusCode()).isEqualTo(302);
        assertThat(rotas.members(host.team()))
                .extracting(one -> one.person().id())
                .containsExactly(otso);
    }

    @Test
    void whoHasTurnsToComeDoesNotLeave() throws Exception {
        inTurn(otso, aino);
        assertThat(post("/members", "leave=true&person=" + otso).body()).contains("has turns to come");
        assertThat(rotas.members(host.team())).hasSize(2);
    }

    @Test
    void theRotaIsACalendarForWhoHasAKey() throws Exception {
        inTurn(otso, aino);
        var key = keys.make("phones " + host.key(), false, Scope.ALL, Duration.ofHours(1), person("lead"));
        var path = "/api/v1/teams/" + team + "/rota.ics?key=";
        assertThat(lead.get(path + "mw_wrong").statusCode()).isEqualTo(401);
        var read = WorkCalendar.read(lead.get(path + key).body(), ZONE);
        assertThat(read.faults()).isEmpty();
        assertThat(read.work().stream().map(WorkCalendar.Work::title).distinct())
                .containsExactlyInAnyOrder(
                        name(otso) + ", first line of Team of " + host.key(),
                        name(aino) + ", first line of Team of " + host.key());
        assertThat(lead.get("/api/v1/teams/nobody/rota.ics?key=" + key).statusCode())
                .isEqualTo(404);
    }

    @Test
    void turnsOfADayAreSetFromADayOnAndTakenAwayAgain() throws Exception {
        inTurn(otso);
        var later =
                turns(name(aino), today.plusDays(1)).replace("days=", "days=weekdays&hoursFrom=08:00&hoursTo=16:00");
        assertThat(post("/rota", later + "&version=1").statusCode()).isEqualTo(302);
        var page = lead.page("/estate/teams/" + team).text();
        assertThat(page).contains("from " + today.plusDays(1) + ", on weekdays from 08:00 to 16:00");
        // Outside its hours nobody is missing.
        assertThat(page).doesNotContain("nobody is on duty");
        var turns = rotas.of(host.team()).turns();
        assertThat(turns).hasSize(2);
        long last = turns.getLast().id();
        assertThat(post("/rota/" + last + "/drop", "version=1").body()).contains("Somebody else changed this rota");
        assertThat(post("/rota/" + last + "/drop", "version=2").statusCode()).isEqualTo(302);
        assertThat(rotas.of(host.team()).turns()).hasSize(1);
        assertThat(post("/rota/preview", turns(name(otso), today).replace("Europe/Helsinki", "Harbour"))
                        .body())
                .contains("&quot;Harbour&quot; is no time zone such as Europe/Helsinki.");
        assertThat(post("/rota/preview", turns("", today)).body()).contains("Turns are taken by 1 to 50 people.");
    }

    @Test
    void aTeamIsRenamedAndItsMailIsOne() throws Exception {
        assertThat(post("", "name=Harbour+people&mail=harbour").body())
                .contains("&quot;harbour&quot; is no mail address.");
        assertThat(post("", "name=Harbour+people+" + host.key() + "&mail=harbour%40sundrava.example")
                        .statusCode())
                .isEqualTo(302);
        assertThat(estate.team(host.team()).orElseThrow().mail()).isEqualTo("harbour@sundrava.example");
        assertThat(lead.get("/estate/teams/nobody").statusCode()).isEqualTo(404);
    }

    /** Nobody locks everybody out: the last admin stays one. */
    @Test
    void theOnlyAdminStaysOne() throws Exception {
        var only = everybody.cards().stream()
                .filter(one -> one.active() && one.person().role() == app.morvet.ground.access.Role.ADMIN)
                .toList();
        assertThat(only).hasSize(1);
        var path = "/setup/people/" + only.getFirst().person().id();
        var admin = loggedIn("admin");
        var name = Browser.encoded(only.getFirst().person().name());
        assertThat(admin.post(path, "name=" + name + "&role=LEAD&active=true&password=")
                        .body())
                .contains("This is the only admin; make another first.");
        assertThat(admin.post(path, "name=" + name + "&role=ADMIN&password=").body())
                .contains("This is the only admin; make another first.");
        assertThat(admin.post("/me/told/addresses", "mail=admin%40sundrava.example&phone=%2B358+00+555+0199")
                        .statusCode())
                .isEqualTo(302);
        assertThat(everybody.card(only.getFirst().person().id()).orElseThrow().phone())
                .isEqualTo("+358 00 555 0199");
    }

    @Test
    void anAdminMakesPeopleAndWhoIsSwitchedOffIsLoggedOut() throws Exception {
        var admin = loggedIn("admin");
        var login = "new" + NUMBER.incrementAndGet();
        var form = "login=" + login + "&name=Tuuli+Niemi&role=ANALYST&mail=tuuli%40sundrava.example&phone=&password=";
        assertThat(admin.post("/setup/people/new", form + "short").body())
                .contains("A password has at least 10 letters");
        assertThat(admin.post("/setup/people/new", form + "password12345").body())
                .contains("among those that are tried first");
        assertThat(admin.post("/setup/people/new", form + "tuuli-sails-on").body())
                .contains("your login or your name");
        assertThat(admin.post("/setup/people/new", form.replace("phone=", "phone=abc") + "grey+gulls+over+piers")
                        .body())
                .contains("is no telephone number such as");
        assertThat(admin.post("/setup/people/new", form + "grey+gulls+over+piers")
                        .statusCode())
                .isEqualTo(302);
        assertThat(admin.post("/setup/people/new", form + "grey+gulls+over+piers")
                        .body())
                .contains("Somebody else logs in as");
        var own = browser();
        own.logIn(login, "grey gulls over piers");
        assertThat(own.page("/me").text()).contains("logs in as " + login);
        assertThat(own.post("/me/password", "old=wrong&fresh=one+tide+after+another&again=one+tide+after+another")
                        .body())
                .contains("The password that you have now is another.");
        assertThat(own.post(
                                "/me/password",
                                "old=grey+gulls+over+piers&fresh=one+tide+after+another&again=one+tide+after+another")
                        .statusCode())
                .isEqualTo(302);
        assertThat(own.get("/cases").statusCode()).isEqualTo(200);
        var card = everybody.cards().stream()
                .filter(one -> one.person().login().equals(login))
                .findFirst()
                .orElseThrow();
        assertThat(admin.post(
                                "/setup/people/" + card.person().id(),
                                "name=Tuuli+Niemi&role=ANALYST&mail=&phone=&password=")
                        .statusCode())
                .isEqualTo(302);
        eventually(() -> assertThat(own.get("/cases").statusCode()).isNotEqualTo(200));
        assertThat(everybody.all()).noneMatch(one -> one.login().equals(login));
        assertThat(everybody.names()).containsEntry(card.person().id(), "Tuuli Niemi");
        assertThat(loggedIn("lead").get("/setup/people").statusCode()).isEqualTo(403);
    }

    @Test
    void whoCoversIsTakenOverFromACalendarOnce() throws Exception {
        var name = name(aino);
        inTurn(otso);
        var analyst = loggedIn("analyst");
        var day = LocalDate.now().plusDays(3).toString().replace("-", "");
        var calendar =
                """
                BEGIN:VCALENDAR
                VERSION:2.0
                PRODID:-//test
                BEGIN:VEVENT
                UID:1
                DTSTAMP:20270101T000000Z
                SUMMARY:%s\\, second line
                DTSTART:%sT160000Z
                DTEND:%sT200000Z
                END:VEVENT
                BEGIN:VEVENT
                UID:2
                DTSTAMP:20270101T000000Z
                SUMMARY:Team dinner
                DTSTART:%sT160000Z
                DTEND:%sT200000Z
                END:VEVENT
                END:VCALENDAR
                """
                        .formatted(name, day, day, day, day);
        var path = "/estate/teams/team-" + host.key() + "/duty/calendar";
        var shown = Jsoup.parse(analyst.post(path, Map.of("text", calendar)).body());
        assertThat(shown.select("table tr td").first().text()).isEqualTo(name + " covers the second line");
        assertThat(shown.select("main li").text()).isEqualTo("\"Team dinner\" names nobody of this team, or several.");
        assertThat(rotas.of(host.team()).changes())
                .as("nothing is put down yet")
                .isEmpty();
        for (int time = 0; time < 2; time++)
            assertThat(analyst.post(path + "/apply", Map.of("text", calendar)).statusCode())
                    .isEqualTo(302);
        assertThat(rotas.of(host.team()).changes()).hasSize(1);
        assertThat(Jsoup.parse(analyst.post(path, Map.of("text", calendar)).body())
                        .select("table")
                        .text())
                .contains("is said already");
        var wrong = Browser.shown(analyst.post(path, Map.of("text", "no calendar")), 422);
        assertThat(wrong.select(".refusal").text()).isNotBlank();
        assertThat(wrong.select("textarea").text()).isEqualTo("no calendar");
    }
}
