package app.morvet.work.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.TextMessage;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.ground.connections.Connection;
import app.morvet.work.channels.TextGateway;
import app.morvet.work.channels.WebCalls;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** People are told by text message, and rooms and pagers by web calls; what one way does not take goes by the next. */
class OtherWaysTest extends ToldByText {
    @Test
    void aWayThatWantsMoreTimeThanCanBeWaitedForIsPassedByForTheNext() throws Exception {
        noGateway();
        DESK.tooMuch("/busy-" + host.key(), 300);
        channels.text("busy-" + host.key(), "Gateway", DESK.url(), "/busy-" + host.key(), "to = {{to}}");
        rule(
                "Text",
                Happening.OPENED,
                null,
                false,
                new Step(Duration.ZERO, new Whom.OnDuty(Whom.OWNER, 0), List.of(Way.TEXT, Way.MAIL)));
        critical();
        eventually(
                () -> assertThat(MAIL.getReceivedMessagesForDomain(mail(first))).hasSize(1));
        assertThat(wholeLogOf(theCase(host)))
                .anyMatch(words -> words.contains("does not get through (Gateway answered 429)"));
    }

    @Test
    void whatHasNoOtherWayWaitsAsLongAsItIsAskedTo() throws Exception {
        DESK.tooMuch("/full-" + host.key(), 300);
        channels.web(
                "full-" + host.key(),
                "The pager",
                DESK.url(),
                "",
                Map.of("path", "/full-" + host.key(), "template", "{\"what\": \"{{title}}\"}"));
        long pager = connections
                .byKey(WebCalls.SORT, "full-" + host.key())
                .map(Connection::id)
                .orElseThrow();
        rule("Page", Happening.OPENED, null, false, step(new Whom.Outside(pager), 0));
        critical();
        eventually(() -> assertThat(delivery().failures()).isEqualTo(1));
        assertThat(delivery().nextTry()).isAfter(Instant.now().plusSeconds(240));
    }

    @Test
    void aTextMessageSaysWhatItIsAndBearsTheLink() throws Exception {
        byText(Way.TEXT, Way.MAIL);
        critical();
        eventually(() -> assertThat(texts()).hasSize(1));
        var text = texts().getFirst();
        assertThat(text).startsWith("to=" + phone + "&words=Critical: heat is 9.0 on " + host.key());
        var link = LINK.matcher(text);
        assertThat(link.find()).as(text).isTrue();
        assertThat(TextMessage.fits(text.substring(text.indexOf("words=") + 6))).isTrue();
        eventually(() -> assertThat(delivery().state()).isEqualTo(Delivery.State.SENT));
        assertThat(wholeLogOf(theCase(host))).contains("Told " + phone + " by text message");
        browser().post("/take/" + link.group(1), "answer=take");
        assertThat(theCase(host).progress().takenBy()).isEqualTo(first);
    }

    /** The mail that it becomes where the gateway fails has its own words. */
    @Test
    void aTextMessageHasWordsOfItsOwn() throws Exception {
        wordings.keep(
                "critical",
                new WordingStore.Typed("{case.headline}", "Long", "{case.number} {case.team}", 0),
                person("admin"));
        try {
            byText(Way.TEXT, Way.MAIL);
            critical();
            eventually(() -> assertThat(texts()).hasSize(1));
            assertThat(texts().getFirst()).contains("words=%d Team of %s http".formatted(caseId(), host.key()));
            assertThat(delivery().subject()).startsWith("heat is 9.0");
        } finally {
            wordings.drop("critical", person("admin"));
        }
    }

    @Test
    void whatAGatewayFailsAtTwiceGoesByMail() throws Exception {
        DESK.answer(texts, 500, "out of order");
        byText(Way.TEXT, Way.MAIL);
        critical();
        eventually(() -> assertThat(delivery().failures()).isEqualTo(1));
        assertThat(now.now()).anyMatch(one -> one.words().startsWith("text message failing since"));
        sending.run(delivery().id().toString());
        assertThat(delivery().to().hop().way()).isEqualTo(Way.MAIL);
        sending.run(delivery().id().toString());
        assertThat(delivery().state()).isEqualTo(Delivery.State.SENT);
        assertThat(MAIL.getReceivedMessagesForDomain(mail(first))).hasSize(1);
        assertThat(wholeLogOf(theCase(host)))
                .anyMatch(words -> words.startsWith("The text message to " + phone + " does not get through")
                        && words.endsWith("it goes to " + mail(first) + " by mail"));
        assertThat(tries.of(delivery().id()).stream()
                        .map(one -> one.way() + " " + one.outcome())
                        .toList())
                .containsExactly("TEXT FAILED", "TEXT FAILED", "MAIL TAKEN");
        var keys = DESK.heard(texts).stream()
                .map(one -> one.headers().get("Idempotency-Key"))
                .distinct();
        assertThat(keys).as("each try bears the same key").hasSize(1);
    }

    @Test
    void whatAGatewayWillNeverTakeIsNotTriedTwice() throws Exception {
        DESK.answer(texts, 400, "no telephone has this number");
        byText(Way.TEXT, Way.MAIL);
        critical();
        eventually(
                () -> assertThat(MAIL.getReceivedMessagesForDomain(mail(first))).hasSize(1));
        assertThat(texts()).hasSize(1);
    }

    /** Whoever cannot be reached is not waited for. */
    @Test
    void whereNoWayIsLeftTheNextIsToldAtOnce() throws Exception {
        DESK.answer(texts, 400, "no telephone has this number");
        long second = onDuty(1, "Linnea", "");
        rule(
                "Text",
                Happening.OPENED,
                null,
                false,
                step(new Whom.OnDuty(Whom.OWNER, 0), 0, Way.TEXT),
                step(new Whom.OnDuty(Whom.OWNER, 1), 30, Way.MAIL));
        critical();
        eventually(() -> assertThat(told("OPENED")).containsExactly(phone, mail(second)));
        assertThat(now.now()).anyMatch(one -> one.words().equals("1 text message not delivered"));
    }

    @Test
    void thatItIsOverIsToldByTheWayThatTheyWereTold() throws Exception {
        byText(Way.TEXT);
        critical();
        eventually(() -> assertThat(texts()).hasSize(1));
        cleared(guard, host, minute + 1, 9);
        sending.run(deliveries.ofCase(caseId()).getFirst().id().toString());
        assertThat(texts()).hasSize(2);
        assertThat(texts().getLast())
                .contains("words=Over")
                .doesNotContain("/take/")
                .contains("/cases/" + caseId());
    }

    /** What is called outside by a name is changed there when the case is over. */
    @Test
    void whatIsPagedIsEndedThere() throws Exception {
        var path = "/paging-" + host.key();
        DESK.answer(path, 201, "{\"item\": {\"id\": \"a/7\"}}");
        channels.web(
                "pager-" + host.key(),
                "The pager",
                DESK.url(),
                "so secret",
                Map.of(
                        "path", path,
                        "template",
                                "{\"state\": \"{{state}}\", \"what\": \"{{title}}\", \"case\": \"{{case}}\", \"team\": \"{{team}}\"}",
                        "idPath", "$.item.id",
                        "laterMethod", "PUT",
                        "laterPath", path + "/{{id}}",
                        "laterTemplate", "{\"done\": \"{{state}}\"}"));
        long pager = connections
                .byKey(WebCalls.SORT, "pager-" + host.key())
                .map(Connection::id)
                .orElseThrow();
        rule("Page", Happening.OPENED, null, false, step(new Whom.Outside(pager), 0));
        critical();
        eventually(() -> assertThat(delivery().outsideId()).isEqualTo("a/7"));
        cleared(guard, host, minute + 1, 9);
        sending.run(deliveries.ofCase(caseId()).getFirst().id().toString());
        var heard = DESK.heard(path);
        assertThat(heard)
                .extracting(one -> one.method() + " " + one.path())
                .containsExactly("POST " + path, "PUT " + path + "/a%2F7");
        var opened = json.readTree(heard.getFirst().body());
        assertThat(opened.path("state").stringValue()).isEqualTo("open");
        assertThat(opened.path("case").stringValue()).isEqualTo("" + caseId());
        assertThat(opened.path("team").stringValue()).isEqualTo("Team of " + host.key());
        assertThat(json.readTree(heard.getLast().body()).path("done").stringValue())
                .isEqualTo("over");
        var mac = javax.crypto.Mac.getInstance("HmacSHA256");
        mac.init(new javax.crypto.spec.SecretKeySpec(
                "so secret".getBytes(java.nio.charset.StandardCharsets.UTF_8), "HmacSHA256"));
        var signed = mac.doFinal((heard.getFirst().headers().get("Morvet-Time") + "\n"
                        + heard.getFirst().body())
                .getBytes(java.nio.charset.StandardCharsets.UTF_8));
        assertThat(heard.getFirst().headers().get("Morvet-Signature"))
                .isEqualTo(java.util.HexFormat.of().formatHex(signed));
    }

    @Test
    void aChannelIsSetUpAndTriedByWhoeverIsToBeToldByIt() throws Exception {
        var admin = loggedIn("admin");
        assertThat(admin.page("/setup/channels").text()).contains("Gateway", "text messages");
        var fresh = admin.page("/setup/channels/one?shape=A+paging+service");
        assertThat(fresh.select("textarea[name=template]").text()).contains("{{severity}}");
        var path = "/room-" + host.key();
        DESK.answer(path, 200, "");
        var fields = new java.util.HashMap<>(Map.of(
                "sort", "web",
                "name", "Room " + host.key(),
                "url", DESK.url(),
                "path", path,
                "method", "POST",
                "laterMethod", "PUT",
                "template", "{\"text\": \"{{crew}}\"}",
                "secret", "very hush"));
        var refused = admin.post("/setup/channels/one", fields);
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body()).contains("uses crew, which is not known");
        fields.put("template", "{\"text\": \"{{title}}\"}");
        assertThat(admin.post("/setup/channels/one", fields).statusCode()).isEqualTo(302);
        long id = connections.of(WebCalls.SORT).stream()
                .filter(one -> one.name().equals("Room " + host.key()))
                .map(Connection::id)
                .findFirst()
                .orElseThrow();
        assertThat(admin.page("/setup/channels/one?id=" + id).html()).doesNotContain("very hush");
        admin.post("/setup/connections/" + id + "/try", Map.of());
        assertThat(DESK.heard(path).getFirst().body()).contains("Test by Mirva Kesti");
        everybody.reach(person("admin"), "", "");
        long gateway = connections.of(TextGateway.SORT).getFirst().id();
        assertThat(admin.post("/setup/connections/" + gateway + "/try", Map.of())
                        .body())
                .contains("you have no telephone number yet");
    }
}
