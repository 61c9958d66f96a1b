package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.Mailed;
import app.morvet.ToldAlerts;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import javax.imageio.ImageIO;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A mail says the same as text and as HTML, in the words that somebody gave it, and nothing in a case becomes a part of them. */
class MailWordsTest extends ToldAlerts {
    @Autowired
    private CallOutWords callOutWords;

    private static final String WORDS = "/setup/channels/words";

    @AfterEach
    void ownWordsHoldAgain() throws Exception {
        for (var of : WordingStore.FOR) loggedIn("admin").post(WORDS + "/drop", Map.of("for", of));
    }

    private MimeMessage mail(Subject to) throws Exception {
        eventually(
                () -> assertThat(MAIL.getReceivedMessagesForDomain(to.mail())).isNotEmpty());
        return MAIL.getReceivedMessagesForDomain(to.mail())[0];
    }

    private Subject inTrouble(String words) {
        var subject = component(host());
        tell(raising(stateGuard("Not well"), subject, 0, CRITICAL, words));
        return subject;
    }

    @Test
    void aMailSaysTheSameAsTextAndAsHtml() throws Exception {
        var subject = inTrouble("it is <b>ill</b> & *tired*");
        var one = theCase(subject);
        var mail = mail(subject);
        var text = Mailed.text(mail);
        assertThat(text)
                .contains("it is <b>ill</b> & *tired*.", "Application  Application of " + subject.key())
                .contains("Everything about it: ", "/cases/" + one.id());
        var html = Jsoup.parse(Mailed.html(mail));
        assertThat(html.select("strong").text()).isEqualTo("it is <b>ill</b> & *tired*");
        assertThat(html.select("b, em")).isEmpty();
        assertThat(html.select("th").eachText()).contains("Application", "Since");
        assertThat(html.select("a[href$=/cases/" + one.id() + "]")).hasSize(1);
        assertThat(mail.getHeader("References")[0]).contains("case-" + one.id() + "@");
        assertThat(mail.getHeader("Auto-Submitted")).containsExactly("auto-generated");
    }

    @Test
    void theCurveGoesWithItAsAPicture() throws Exception {
        var subject = component(host());
        var now = Instant.now();
        var readings = new StringBuilder("# TYPE heat gauge\n");
        for (int minute = 60; minute > 0; minute--)
            readings.append("heat{component=\"%s\"} %d %d\n"
                    .formatted(
                            subject.key(),
                            minute % 7,
                            now.minus(Duration.ofMinutes(minute)).getEpochSecond()));
        assertThat(tell(readings + "# EOF\n").statusCode()).isEqualTo(202);
        long guard = guard("hot");
        raised(guard, subject, (int) Duration.between(T, now).toMinutes() - 5, CRITICAL, 9);
        var mail = mail(subject);
        assertThat(Jsoup.parse(Mailed.html(mail)).select("img[src=cid:curve]")).hasSize(1);
        assertThat(Mailed.text(mail)).doesNotContain("cid:");
        var picture =
                ImageIO.read(new ByteArrayInputStream(Mailed.pictures(mail).getFirst()));
        assertThat(picture.getWidth()).isEqualTo(1120);
        var page = loggedIn("admin")
                .get("%s/curve/%d.png".formatted(WORDS, theCase(subject).id()));
        assertThat(page.headers().firstValue("content-type")).contains("image/png");
    }

    @Test
    void whatSomebodyWordedHoldsForCasesSoBad() throws Exception {
        var admin = loggedIn("admin");
        keep(admin, "any", "All: {case.headline}", "# {case.component}\n\n{case.fix}\n\n[open it]({case.link})", 0);
        keep(admin, "critical", "Wake up: {case.headline}", "**Now** {case.number}\n\nOwner {case.team}", 0);
        var critical = mail(inTrouble("very ill"));
        assertThat(critical.getSubject()).isEqualTo("Wake up: very ill");
        assertThat(Mailed.text(critical)).startsWith("**Now** ");
        assertThat(Jsoup.parse(Mailed.html(critical)).select("strong").text()).isEqualTo("Now");

        admin.post(WORDS + "/drop", Map.of("for", "critical"));
        var any = mail(inTrouble("ill again"));
        assertThat(any.getSubject()).isEqualTo("All: ill again");
        var html = Jsoup.parse(Mailed.html(any));
        assertThat(html.select("h1").text()).startsWith("The ");
        assertThat(html.select("a:contains(open it)").attr("href")).contains("/cases/");
    }

    private static void keep(Browser admin, String of, String subject, String body, int version) throws Exception {
        var answer = admin.post(
                WORDS,
                Map.of("for", of, "subject", subject, "body", body, "brief", "{case.number}", "version", "" + version));
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(302);
    }

    @Test
    void whatChangedBeforeStandsInItAndNotInThatItIsOver() throws Exception {
        var subject = component(host());
        var at = Instant.now().minus(Duration.ofMinutes(50));
        var change = Map.<String, Object>of(
                "what", "version", "name", "gate <b>firmware</b>", "before", "4.1", "after", "4.2", "by", "Quay crew");
        assertThat(send(java.util.List.of(event("change.observed", subject.key(), at, change)))
                        .statusCode())
                .isEqualTo(202);
        long guard = stateGuard("Not well");
        int minute = (int) Duration.between(T, Instant.now()).toMinutes();
        tell(raising(guard, subject, minute, CRITICAL, "ill"));
        var mail = mail(subject);
        assertThat(Mailed.text(mail))
                .contains("What changed before:\n- ", "version of gate <b>firmware</b>: 4.1 → 4.2, by Quay crew");
        var html = Jsoup.parse(Mailed.html(mail));
        assertThat(html.select("li").text()).contains("gate <b>firmware</b>: 4.1 → 4.2");
        assertThat(html.select("li b")).isEmpty();
        assertThat(wordsOf(subject, Delivery.About.OVER).body()).doesNotContain("What changed before");
    }

    private CallOutWords.Words wordsOf(Subject subject, Delivery.About about) {
        return callOutWords.of(theCase(subject), about, 0, java.time.ZoneId.of("Europe/Helsinki"));
    }

    /** What a job wrote stands in the mail, masked; what is too long for that goes with it as a file. */
    @Test
    void whatTheJobThatFailedWroteGoesWithIt() throws Exception {
        keep(loggedIn("admin"), "any", "{case.headline}", "It wrote:\n\n{case.output}\n\nEnd", 0);
        var shown = failed("reads 61 <records>\nERROR no rate table");
        assertThat(Mailed.text(shown)).contains("It wrote:\n\nreads 61 <records>\nERROR no rate table\n\nEnd");
        assertThat(Jsoup.parse(Mailed.html(shown)).select("pre").text())
                .isEqualTo("reads 61 <records>\nERROR no rate table");
        var longer = "a line of 17 signs\n".repeat(5000);
        var attached = failed(longer);
        assertThat(Mailed.text(attached))
                .contains("What it wrote, 92 KiB, is attached.")
                .doesNotContain("a line of");
        assertThat(Mailed.attached(attached, "output-")).isEqualTo(longer);
    }

    private MimeMessage failed(String output) throws Exception {
        var job = component(job());
        var at = Instant.now().minusSeconds(30);
        assertThat(send(java.util.List.of(ofRun(
                                "finished",
                                job.key(),
                                "one",
                                at,
                                Map.of("exitCode", 12, "started", "" + at.minusSeconds(60), "output", output))))
                        .statusCode())
                .isEqualTo(202);
        int minute = (int) Duration.between(T, Instant.now()).toMinutes();
        tell(raising(stateGuard("Not well"), job, minute, CRITICAL, "it failed"));
        return mail(job);
    }

    @Test
    void whatCannotBeUsedIsToldByItsPlaceAndNothingIsLost() throws Exception {
        var admin = loggedIn("admin");
        var wrong = Browser.shown(
                admin.post(
                        WORDS, Map.of("subject", "{case.headline}", "body", "Dear team\n\n  {case.nme}", "brief", "x")),
                422);
        assertThat(wrong.select(".refusal").first().text())
                .startsWith("The text, line 3, place 3: there is no {case.nme}. There are: {told.as}");
        assertThat(wrong.select("textarea").text()).contains("{case.nme}");
        var several = Browser.shown(admin.post(WORDS, Map.of("subject", "a\nb", "body", "x", "brief", "x")), 422);
        assertThat(several.select(".refusal").first().text()).startsWith("The subject is one line");
        var none = Browser.shown(admin.post(WORDS, Map.of("subject", "a", "body", "x", "brief", " ")), 422);
        assertThat(none.select(".refusal").first().text()).startsWith("The text message is one line");
        keep(admin, "any", "first", "x", 0);
        var overtaken = Browser.shown(
                admin.post(WORDS, Map.of("subject", "second", "body", "y", "brief", "z", "version", "0")), 422);
        assertThat(overtaken.select(".refusal").first().text()).startsWith("Somebody else changed these words");
        assertThat(overtaken.select("input[name=subject]").attr("value")).isEqualTo("second");
        assertThat(loggedIn("lead").get(WORDS).statusCode()).isEqualTo(403);
        assertThat(admin.get(WORDS + "?for=nobody").statusCode()).isEqualTo(404);
    }

    @Test
    void itIsShownForACaseThatThereWas() throws Exception {
        var subject = inTrouble("ill <script>alert(1)</script>");
        var admin = loggedIn("admin");
        var shown = Jsoup.parse(admin.post(
                        WORDS + "/preview",
                        Map.of(
                                "subject",
                                "To {case.team}",
                                "body",
                                "*{case.headline}* <i>raw</i>",
                                "brief",
                                "{case.severity}: ".repeat(15),
                                "case",
                                "" + theCase(subject).id()))
                .body());
        assertThat(shown.select(".mail-subject").text()).isEqualTo("To Team of " + subject.key());
        assertThat(shown.select(".mail-shown em").text()).isEqualTo("ill <script>alert(1)</script>");
        assertThat(shown.select("script, i")).isEmpty();
        assertThat(shown.select(".text-shown").text())
                .hasSizeLessThan(161)
                .matches("critical: critical: .*\\.\\.\\. http.*");
        assertThat(Jsoup.parse(admin.post(WORDS + "/preview", Map.of("subject", "x", "body", "{", "brief", "x"))
                                .body())
                        .select(".refusal")
                        .text())
                .startsWith("The text, line 1, place 1: a brace is open");
        assertThat(admin.page(WORDS).select(".variables dt").eachText()).contains("{case.sample}", "{case.curve}");
    }
}
