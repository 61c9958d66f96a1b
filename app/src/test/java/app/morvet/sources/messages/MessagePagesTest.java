package app.morvet.sources.messages;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.rules.guards.StoredGuard;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** One failed message whole, what is hidden in it, and how it is found. */
class MessagePagesTest extends MorvetTest {
    @Autowired
    Masks masks;

    @Autowired
    PlatformTransactionManager transactions;

    private String word() {
        return "w" + UUID.randomUUID().toString().replace("-", "");
    }

    private void tell(Subject subject, Map<String, Object> told) throws Exception {
        assertThat(send(List.of(failed(subject, told))).statusCode()).isEqualTo(202);
    }

    @Test
    void aMessageShowsItsStepsItsFailingPartItsAttachmentsAndItsSiblings() throws Exception {
        var subject = subject();
        var at = Instant.now().minusSeconds(60);
        var key = "MF-" + word();
        tell(subject, Map.of("businessKey", key, "error", "earlier trouble"));
        tell(
                subject,
                Map.of(
                        "message",
                        "ref-1",
                        "businessKey",
                        key,
                        "error",
                        "Unknown harbour code 'FIXQV' in /manifest/call/harbour",
                        "payloadType",
                        "application/xml",
                        "payload",
                        "<manifest><call><harbour>FIXQV</harbour></call></manifest>",
                        "steps",
                        List.of(
                                Map.of("name", "receive", "at", at.toString(), "words", "taken from in-7"),
                                Map.of(
                                        "name",
                                        "validate",
                                        "at",
                                        at.plusMillis(40).toString(),
                                        "failed",
                                        true)),
                        "attachments",
                        List.of(Map.of("name", "note <b>.txt", "type", "text/plain", "text", "signed"))));
        var analyst = loggedIn("analyst");
        var page = analyst.get(messageOf(subject)).body();
        assertThat(page)
                .contains("<mark class=\"failing\">FIXQV</mark>", "taken from in-7", "+40 ms", "failed here")
                .contains("note &lt;b&gt;.txt", "The same business key", "earlier trouble", "ref-1");
        var attached = analyst.get(messageOf(subject) + "/attachments/0");
        assertThat(attached.body()).isEqualTo("signed");
        assertThat(attached.headers().firstValue("content-disposition").orElseThrow())
                .startsWith("attachment");
        assertThat(analyst.get(messageOf(subject) + "/attachments/7").statusCode())
                .isEqualTo(404);
    }

    @Test
    void whatIsMaskedIsUncoveredOnlyWithTheRightAndWithAnEntryInTheAuditRecord() throws Exception {
        var subject = subject();
        var secret = word();
        masks.set("Mail of " + subject.key(), Set.of(subject.key()), "contact/mail", "");
        masks.set("Number of " + subject.key(), Set.of(subject.key()), "", "N-" + secret);
        tell(
                subject,
                Map.of(
                        "error",
                        "no mail for N-" + secret,
                        "attributes",
                        Map.of("who", "N-" + secret),
                        "payload",
                        "{\"contact\":{\"mail\":\"" + secret + "@sundrava.example\"},\"note\":\"\\u004e-" + secret
                                + "\"}"));
        var path = messageOf(subject);
        var analyst = loggedIn("analyst");
        for (var shown : List.of(
                path,
                path + "/payload",
                "/messages/search?interface=" + subject.key(),
                "/messages/search.csv?interface=" + subject.key(),
                "/messages/mend?interface=" + subject.key(),
                "/messages/mend/values.csv?interface=" + subject.key(),
                "/messages/interfaces/" + subject.key(),
                "/messages/families?interface=" + subject.key()))
            assertThat(analyst.get(shown).body()).as(shown).doesNotContain(secret);
        assertThat(analyst.page(path).text()).contains("▒▒▒▒", "a lead can show them");
        eventually(() -> assertThat(analyst.get("/messages/search?q=mail&interface=" + subject.key())
                        .body())
                .contains(path));
        assertThat(analyst.get("/messages/search?q=" + secret).body()).doesNotContain(path);
        for (var way : List.of("/uncovered", "/uncovered/payload"))
            assertThat(analyst.post(path + way, "x=1").statusCode()).isEqualTo(403);

        var lead = loggedIn("lead");
        assertThat(lead.get(path).body()).doesNotContain(secret).contains("Show what is hidden");
        assertThat(lead.post(path + "/uncovered", "x=1").body()).contains(secret + "@sundrava.example");
        assertThat(lead.post(path + "/uncovered/payload", "x=1").body()).contains(secret + "@sundrava.example");
        assertThat(jdbc.sql("select count(*) from audit_entry where what = 'uncovered' and subject = :subject")
                        .param("subject", "message " + path.substring("/messages/".length()))
                        .query(Long.class)
                        .single())
                .isEqualTo(2);
    }

    @Test
    void whatIsNoTextIsShownAsBytesAndHiddenWholeWhereSomethingIsMasked() throws Exception {
        var subject = subject();
        var bytes = new byte[] {(byte) 0xca, (byte) 0xfe, 0, 1, 'K', 'E', 'E', 'L'};
        var told = Map.<String, Object>of(
                "payload",
                "",
                "payloadType",
                "application/octet-stream",
                "payloadBase64",
                Base64.getEncoder().encodeToString(bytes));
        tell(subject, told);
        var analyst = loggedIn("analyst");
        assertThat(analyst.get(messageOf(subject)).body()).contains("ca fe 00 01 4b", "····KEEL");
        masks.set("Any of " + subject.key(), Set.of(subject.key()), "x/y", "");
        assertThat(analyst.get(messageOf(subject)).body())
                .doesNotContain("4b 45")
                .contains("all of them are hidden");
        assertThat(analyst.get(messageOf(subject) + "/payload").statusCode()).isEqualTo(403);
    }

    @Test
    void messagesAreFoundByWordsKeyAndStateAndComeAsAFile() throws Exception {
        var subject = subject();
        var word = word();
        tell(
                subject,
                Map.of(
                        "businessKey",
                        "K-" + word,
                        "error",
                        "=cmd " + word + " jammed",
                        "payload",
                        "{\"ship\":\"Isolde\"}"));
        tell(subject, Map.of("error", "java.net.ReadTimeoutException near " + word));
        var analyst = loggedIn("analyst");
        eventually(() -> assertThat(found(analyst, "q=" + word + "+isolde"))
                .contains("K-" + word)
                .doesNotContain("ReadTimeout"));
        eventually(() -> assertThat(found(analyst, "q=" + word + "+timeout"))
                .contains("ReadTimeoutException")
                .doesNotContain("K-" + word));
        assertThat(found(analyst, "q=" + word + "+-timeout"))
                .contains("K-" + word)
                .doesNotContain("ReadTimeout");
        assertThat(found(analyst, "key=K-" + word)).contains("jammed");
        assertThat(found(analyst, "key=K-" + word + "&state=open")).contains("Nothing of this kind");
        assertThat(found(analyst, "key=K-" + word + "&state=counted")).contains("jammed");
        assertThat(found(analyst, "from=2026-13-99T00:00")).contains("is no time");
        assertThat(found(analyst, "interface=nowhere")).contains("There is no interface nowhere.");
        assertThat(analyst.get("/messages/search/count?q=" + word).body()).contains("2 found");
        var file = analyst.get("/messages/search.csv?key=K-" + word).body();
        assertThat(file.lines()).hasSize(2);
        // A spreadsheet must not take it for a formula.
        assertThat(file).contains("'=cmd " + word);
    }

    @Test
    void aSearchSaysThatSomeCannotBeFoundByTheirWordsYet() throws Exception {
        var subject = subject();
        var word = word();
        var analyst = loggedIn("analyst");
        new TransactionTemplate(transactions).executeWithoutResult(status -> {
            jdbc.sql("lock table message_words in exclusive mode").update();
            try {
                tell(subject, Map.of("businessKey", "K-" + word, "error", word + " jammed"));
                assertThat(found(analyst, "q=" + word))
                        .doesNotContain("K-" + word)
                        .containsPattern("cannot be found by (its|their) words yet");
            } catch (Exception wrong) {
                throw new AssertionError(wrong);
            }
        });
        eventually(() -> assertThat(found(analyst, "q=" + word)).contains("K-" + word));
    }

    private static String found(Browser analyst, String asked) throws Exception {
        return analyst.get("/messages/search?" + asked).body();
    }

    @Test
    void aSavedSearchFeedsAGuard() throws Exception {
        var subject = subject();
        var word = word();
        var lead = loggedIn("lead");
        assertThat(lead.post("/messages/searches", "name=&q=" + word).body()).contains("Give the search a name");
        lead.post("/messages/searches", "name=Jam+" + word + "&counted=yes&q=" + word);
        assertThat(lead.get("/messages/search").body()).contains("Jam " + word);
        var rule = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(10)),
                Amount.of(Amount.Fold.SUM),
                Limits.above(2, 5),
                Terms.clearing(0.5, Duration.ZERO));
        guards.add(
                new StoredGuard(
                        0,
                        "Jams " + word,
                        true,
                        Watch.of("search_jam_" + word).named(subject.key()),
                        rule,
                        "",
                        null,
                        0),
                person("lead"));
        for (int i = 0; i < 4; i++) tell(subject, Map.of("error", "winch " + word + " jammed"));
        tell(subject, Map.of("error", "something else"));
        eventually(() -> assertThat(caseOf(subject).get("headline").toString()).contains("is 4, over"));
    }
}
