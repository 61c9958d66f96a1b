package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.Mailed;
import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.Digest;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.callouts.Wishes;
import app.morvet.ground.access.OwnZones;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.access.Role;
import app.morvet.work.channels.Channels;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** People are told as they wish, but for what is critical; and show that they are reached where they say. */
class OwnTellingTest extends ToldPeople {
    @Autowired
    private WishStore wishes;

    @Autowired
    private DeliveryStore deliveries;

    @Autowired
    private DeliverySending sending;

    @Autowired
    private Recipients recipients;

    @Autowired
    private Channels channels;

    @Autowired
    private OwnZones zones;

    private long first;
    private long guard;
    private int minute;

    @BeforeEach
    void somebodyOnDuty() {
        host = component("host");
        first = onDuty(0, "Otso", "");
        guard = guard("wished");
        minute = (int) Duration.between(T, Instant.now()).toMinutes();
        ruleFromWarning();
        // Its next time is a day from now.
        var aWhileAgo = LocalTime.now(ZONE).minusMinutes(2).truncatedTo(ChronoUnit.MINUTES);
        wishes.keep(
                first, new Wishes(null, null, null, new Digest(Digest.Every.DAY, DayOfWeek.MONDAY, aWhileAgo), true));
    }

    private void ruleFromWarning() {
        ruleFrom(
                WARNING,
                "Wished",
                Happening.OPENED,
                null,
                false,
                new Step(Duration.ZERO, new Whom.One(first), List.of(Way.MAIL)));
    }

    private void raise(Severity severity) {
        raised(guard, host, minute, severity, 9);
    }

    private Delivery delivery() {
        return deliveries.ofCase(caseId()).getFirst();
    }

    private int mails() {
        return MAIL.getReceivedMessagesForDomain(mail(first)).length;
    }

    /** As if its time had come. */
    private void itIsTime() {
        jdbc.sql("update delivery set next_try = now() - interval '1 s' where person_id = :who and state = 'WAITING'")
                .param("who", first)
                .update();
        jdbc.sql("select id from delivery where person_id = :who and state = 'WAITING'")
                .param("who", first)
                .query(String.class)
                .list()
                .forEach(sending::run);
    }

    @Test
    void whatIsNotCriticalWaitsForTheDigestAndSaysUntilWhen() throws Exception {
        raise(WARNING);
        var waits = delivery();
        assertThat(waits.state()).isEqualTo(Delivery.State.WAITING);
        assertThat(waits.nextTry()).isAfter(Instant.now().plus(Duration.ofHours(22)));
        assertThat(loggedIn("lead").page("/callouts?words=" + host.key()).text())
                .contains("as they wish");
        itIsTime();
        assertThat(mails()).isEqualTo(1);
    }

    @Test
    void whatIsCriticalComesAtOnce() throws Exception {
        raise(CRITICAL);
        eventually(() -> assertThat(mails()).isEqualTo(1));
    }

    @Test
    void allThatWaitsGoesInOneMessage() throws Exception {
        raise(WARNING);
        var mine = host;
        var hosts = List.of(component("host"), component("host"));
        for (var one : hosts) {
            host = one;
            ruleFromWarning();
            raise(WARNING);
        }
        host = mine;
        itIsTime();
        var mails = MAIL.getReceivedMessagesForDomain(mail(first));
        assertThat(mails).hasSize(1);
        assertThat(mails[0].getSubject()).startsWith("3 cases. ");
    }

    /** Whoever sleeps and never heard of it is told neither that it began nor that it ended. */
    @Test
    void whatCameAndWentMeanwhileIsNotTold() {
        raise(WARNING);
        cleared(guard, host, minute + 1, 9);
        assertThat(deliveries.ofCase(caseId())).hasSize(2);
        itIsTime();
        assertThat(mails()).isZero();
        assertThat(deliveries.ofCase(caseId())).isEmpty();
    }

    @Test
    void whatSomebodyHasTakenMeanwhileIsNotTold() {
        raise(WARNING);
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("other"), Instant.now());
        itIsTime();
        assertThat(mails()).isZero();
    }

    @Test
    void theWayThatSomebodyWishesComesFirst() {
        long id = everybody.addMember(
                host.key() + "-both", "Both", host.key() + "-both@sundrava.example", "+358 00 555 0142");
        channels.text(
                "text-" + host.key(), "Gateway", DESK.url(), "/text-" + host.key(), "to = {{to}}\nwords = {{text}}");
        var step = new Step(Duration.ZERO, new Whom.One(id), List.of(Way.TEXT, Way.MAIL));
        assertThat(ways(step)).containsExactly(Way.TEXT, Way.MAIL);
        wishes.keep(id, new Wishes(Way.MAIL, null, null, null, true));
        assertThat(ways(step)).containsExactly(Way.MAIL, Way.TEXT);
    }

    private List<Way> ways(Step step) {
        return recipients.now().of(step, null, Instant.now()).reached().getFirst().hops().stream()
                .map(Delivery.Hop::way)
                .toList();
    }

    @AfterEach
    void noGateway() {
        jdbc.sql("delete from outside_call").update();
        jdbc.sql("delete from outside_connection where sort = 'text'").update();
    }

    private Browser own(String login) throws Exception {
        people.make(
                login,
                new People.Card(
                        new Person(0, login, "Tuuli Niemi", Role.ANALYST), login + "@sundrava.example", "", true),
                "phone-in-a-taxi",
                person("admin"));
        var browser = browser();
        browser.logIn(login, "phone-in-a-taxi");
        return browser;
    }

    @Test
    void everybodySetsTheirOwnAndHalfOfItIsRefused() throws Exception {
        var login = host.key() + "-own";
        var own = own(login);
        assertThat(own.post(
                                "/me/told",
                                "first=TEXT&digest=DAY&digestAt=06%3A30&quiet=yes&quietFrom=22%3A00&quietTo=06%3A00")
                        .statusCode())
                .isEqualTo(302);
        long id = person(login).id();
        assertThat(wishes.of(id).words())
                .isEqualTo("text message first; quiet from 22:00 to 06:00; what is not critical every day at 06:30");
        assertThat(own.page("/me/told").select("[name=quietFrom]").val()).isEqualTo("22:00");
        var refused = own.post("/me/told", "quiet=yes&quietFrom=22%3A00&quietTo=");
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body()).contains("Say when quiet hours end, such as 22:00.");
        assertThat(wishes.of(id).quietFrom()).as("nothing is changed").hasToString("22:00");
        own.post("/me/told", "first=&digest=");
        assertThat(wishes.of(id)).isEqualTo(Wishes.NONE);
    }

    @Test
    void quietHoursGoByTheClockByWhichSomebodyLivesAndMailsSayWhatItIsThere() throws Exception {
        var tokyo = ZoneId.of("Asia/Tokyo");
        zones.set(people.byId(first).orElseThrow(), tokyo.getId());
        var there = LocalTime.now(tokyo).truncatedTo(ChronoUnit.MINUTES);
        wishes.keep(first, new Wishes(null, there.minusHours(1), there.plusHours(1), null, true));
        raise(WARNING);
        var end = ZonedDateTime.now(tokyo).truncatedTo(ChronoUnit.MINUTES).plusHours(1);
        assertThat(delivery().nextTry())
                .isBetween(end.minusMinutes(1).toInstant(), end.plusMinutes(1).toInstant());
        itIsTime();
        assertThat(Mailed.text(MAIL.getReceivedMessagesForDomain(mail(first))[0]))
                .containsPattern("Times are in Europe/Helsinki; \\d\\d:\\d\\d there is \\d\\d:\\d\\d in Asia/Tokyo\\.");
    }

    @Test
    void aClockOfOnesOwnStandsBesideThatOfTheEstate() throws Exception {
        var own = own(host.key() + "-away");
        assertThat(own.page("/shift").select(".nowline time")).hasSize(1);
        assertThat(own.post("/me/told", "zone=Tokyo").body())
                .contains("&quot;Tokyo&quot; is no zone; write one such as");
        assertThat(own.post("/me/told", "zone=Asia%2FTokyo").statusCode()).isEqualTo(302);
        var clocks = own.page("/shift").select(".nowline time");
        assertThat(clocks.eachAttr("data-zone")).containsExactly("Europe/Helsinki", "Asia/Tokyo");
        assertThat(clocks.get(1).text()).isNotEqualTo(clocks.get(0).text());
        assertThat(own.page("/me/told").select("[name=zone]").val()).isEqualTo("Asia/Tokyo");
        own.post("/me/told", "zone=");
        assertThat(own.page("/shift").select(".nowline time")).hasSize(1);
    }

    /** Of a team, too: what is theirs is theirs. */
    @Test
    void whoeverIsOfATeamHasPagesOfTheirOwnAndNoOthers() throws Exception {
        everybody.logsIn(first, "phone-in-a-taxi");
        var own = browser();
        own.logIn(host.key() + "-otso", "phone-in-a-taxi");
        var shown = own.page("/me/told");
        assertThat(shown.select("nav[aria-label=Places], .nowline, .search")).isEmpty();
        assertThat(shown.select("main > h1").text()).isEqualTo("Otso of " + host.key());
        assertThat(own.get("/cases").statusCode()).isEqualTo(403);
    }

    private String code(String to) throws Exception {
        var last = Arrays.stream(MAIL.getReceivedMessagesForDomain(to)).toList().getLast();
        var code = Pattern.compile("(\\d{6}) is your code").matcher(Mailed.text(last));
        assertThat(code.find()).isTrue();
        return code.group(1);
    }

    /** However fast somebody clicks, or a program for them, it is one mail in half a minute. */
    @Test
    void ofManyCodesAskedForAtOnceOneIsSent() throws Exception {
        var now = Instant.now().truncatedTo(ChronoUnit.MICROS);
        var asked = new ArrayList<Callable<Boolean>>();
        for (byte i = 0; i < 8; i++) {
            var hash = new byte[] {i};
            asked.add(() -> wishes.sent(first, Way.MAIL, mail(first), hash, now, now.minusSeconds(30)));
        }
        int sent = 0;
        try (var each = Executors.newVirtualThreadPerTaskExecutor()) {
            for (var one : each.invokeAll(asked)) if (one.get()) sent++;
        }
        assertThat(sent).isOne();
        var later = now.plusSeconds(30);
        assertThat(wishes.sent(first, Way.MAIL, mail(first), new byte[] {9}, later.minusMillis(1), now.minusMillis(1)))
                .isFalse();
        assertThat(wishes.sent(first, Way.MAIL, mail(first), new byte[] {9}, later, now))
                .isTrue();
    }

    @Test
    void aCodeShowsThatSomebodyIsReachedThere() throws Exception {
        var login = host.key() + "-code";
        var own = own(login);
        var to = login + "@sundrava.example";
        own.post("/me/told/mail/code", "");
        var right = code(to);
        assertThat(own.post("/me/told/mail/code", "").body()).contains("A code has just been sent");
        var wrong = "%06d".formatted((Integer.parseInt(right) + 1) % 1_000_000);
        assertThat(own.post("/me/told/mail/verified", "code=" + wrong).body())
                .contains("This is not the code that was sent.");
        assertThat(own.post("/me/told/mail/verified", "code=" + right.substring(0, 3) + "+" + right.substring(3))
                        .statusCode())
                .isEqualTo(302);
        assertThat(own.page("/me/told").text()).contains("yes: a code was sent there and typed here");
        assertThat(own.post("/me/told/mail/verified", "code=" + right).body()).contains("No code is on its way there.");
        own.post("/me/told/addresses", "mail=elsewhere%40sundrava.example&phone=");
        assertThat(own.page("/me/told").text()).as("that was another address").doesNotContain("yes: a code");
    }

    @Test
    void aCodeIsGoodForFiveTriesAndAQuarterOfAnHour() throws Exception {
        var login = host.key() + "-tries";
        var own = own(login);
        own.post("/me/told/mail/code", "");
        var right = code(login + "@sundrava.example");
        for (int i = 0; i < 5; i++) own.post("/me/told/mail/verified", "code=x");
        assertThat(own.post("/me/told/mail/verified", "code=" + right).body()).contains("not good any more");
        jdbc.sql("update reach_check set tries = 0, sent_at = sent_at - interval '16 min' where person_id = :who")
                .param("who", person(login).id())
                .update();
        assertThat(own.post("/me/told/mail/verified", "code=" + right).body()).contains("not good any more");
    }

    @Test
    void whereACodeDoesNotGetThereItSaysSo() throws Exception {
        var own = own(host.key() + "-no");
        assertThat(own.post("/me/told/text/code", "").body()).contains("Say first where you are reached.");
        own.post("/me/told/addresses", "mail=&phone=%2B358+00+555+0142");
        assertThat(own.post("/me/told/text/code", "").body()).contains("No gateway for text messages is connected.");
        assertThat(own.post("/me/told/pigeon/code", "").statusCode()).isEqualTo(404);
    }
}
