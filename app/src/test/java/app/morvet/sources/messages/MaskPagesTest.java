package app.morvet.sources.messages;

import static app.morvet.Browser.encoded;
import static app.morvet.Browser.to;
import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Instant;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ThreadLocalRandom;
import org.junit.jupiter.api.Test;

/** Masks as they are made, looked at before, changed and taken away. */
class MaskPagesTest extends MorvetTest {
    private static String form(Subject subject, String name, String path, String pattern) {
        return "name=" + encoded(name) + "&interfaces=" + encoded("Interface " + subject.key()) + "&path="
                + encoded(path) + "&pattern=" + encoded(pattern);
    }

    private long idOf(String name) {
        return jdbc.sql("select id from mask where name = :name")
                .param("name", name)
                .query(Long.class)
                .single();
    }

    @Test
    void whatAMaskHidesIsSeenBeforeItIsKeptAndFoundNoMoreAfter() throws Exception {
        var subject = subject();
        var word = "w" + UUID.randomUUID().toString().replace("-", "");
        var told = Map.<String, Object>of(
                "error",
                "refused",
                "payloadType",
                "application/json",
                "payload",
                "{\"guest\":{\"card\":\"" + word + "\"},\"ship\":\"Aurelia\"}");
        assertThat(send(List.of(failed(subject, told))).statusCode()).isEqualTo(202);
        var lead = loggedIn("lead");
        var found = "/messages/search?interface=" + subject.key() + "&q=" + word;
        eventually(() -> assertThat(lead.get(found).body()).contains("row-open"));

        var name = "Cards of " + subject.key();
        var form = form(subject, name, "guest/card", "");
        assertThat(lead.post("/messages/masks/preview", form, "HX-Request", "true")
                        .body())
                .contains("It hides something in 1 of the latest 1 failed messages")
                .contains("▒▒▒▒")
                .doesNotContain(word);
        assertThat(lead.post("/messages/masks/preview", form(subject, name, "guest/name", ""), "HX-Request", "true")
                        .body())
                .contains("In the latest 1 failed messages it hides nothing.");
        assertThat(lead.get(messageOf(subject)).body()).contains(word);

        assertThat(to(lead.post("/messages/masks/save", form))).isEqualTo("/messages/masks");
        assertThat(lead.get("/messages/masks").body()).contains(name).contains("Hide what stands at guest/card");
        assertThat(lead.get(messageOf(subject)).body()).contains("▒▒▒▒").doesNotContain(word);
        eventually(() -> assertThat(lead.get(found).body()).doesNotContain("row-open"));

        var edit = lead.get("/messages/masks?edit=" + idOf(name)).body();
        assertThat(edit).contains("value=\"guest/card\"").contains("Interface " + subject.key());
        var other = form(subject, name, "", "w[0-9a-f]{4}") + "&id=" + idOf(name);
        assertThat(to(lead.post("/messages/masks/save", other))).isEqualTo("/messages/masks");
        assertThat(lead.get("/messages/masks").body()).contains("Hide what looks like /w[0-9a-f]{4}/");
        lead.post("/messages/masks/" + idOf(name) + "/delete", "");
        assertThat(lead.get(messageOf(subject)).body()).contains(word);
        assertThat(jdbc.sql("select what from audit_entry where subject = :subject order by id")
                        .param("subject", "mask " + name)
                        .query(String.class)
                        .list())
                .containsExactly("mask made", "mask changed", "mask deleted");
    }

    @Test
    void aMaskThatCannotHideIsRefusedWithWhatWasTyped() throws Exception {
        var subject = subject();
        var lead = loggedIn("lead");
        for (var wrong : Map.of(
                        form(subject, "", "a/b", ""), "Give the mask a name",
                        form(subject, "Both", "a/b", "x"), "Give either the path of a field or a pattern",
                        form(subject, "Neither", "", ""), "Give either the path of a field or a pattern",
                        form(subject, "Broken", "", "(unclosed"), "(unclosed",
                        form(subject, "Nowhere", "a/b", "").replace(encoded(subject.key()), "nowhere"),
                                "There is no interface")
                .entrySet()) {
            var refused = lead.post("/messages/masks/save", wrong.getKey());
            assertThat(refused.statusCode()).as(wrong.getValue()).isEqualTo(422);
            assertThat(refused.body()).contains(wrong.getValue());
        }
        assertThat(loggedIn("analyst")
                        .post("/messages/masks/save", form(subject, "Mine", "a/b", ""))
                        .statusCode())
                .isEqualTo(403);
    }

    /** What is refused is kept as it was sent, and who may not read it in a message may not read it there. */
    @Test
    void whatAMaskHidesIsHiddenInRefusedEventsToo() throws Exception {
        var subject = subject();
        var lead = loggedIn("lead");
        var name = "Refused cards of " + subject.key();
        lead.post("/messages/masks/save", form(subject, name, "guest/card", ""));
        var word = "w" + UUID.randomUUID().toString().replace("-", "");
        var payload = "{\"guest\":{\"card\":\"" + word + "\"},\"ship\":\"Aurelia\"}";
        var plain = failed(
                subject, Map.of("payloadType", "application/json", "payload", payload, "error", "first of them"));
        var late = new HashMap<>(plain);
        late.put("time", "1999-01-01T00:00:00Z");
        var cut = new HashMap<>(late);
        cut.put("data", Map.of("payloadType", "text/plain", "payload", word + "x".repeat(20_000)));
        assertThat(tree(send(List.of(late, cut))).path("rejected")).hasSize(2);
        var page = lead.page("/messages/refused");
        assertThat(page.html()).doesNotContain(word);
        assertThat(page.text()).contains("first of them", "Aurelia", "▒▒▒▒");
        lead.post("/messages/masks/" + idOf(name) + "/delete", "");
    }

    /** Everything of a message that people see, and what they may ask for it by. */
    @Test
    void whatLooksLikeASecretIsHiddenInKeysStepsAndNamesAndNotFoundByThem() throws Exception {
        var subject = subject();
        var lead = loggedIn("lead");
        var name = "Cards on " + subject.key();
        lead.post("/messages/masks/save", form(subject, name, "", "CARD-\\d{8}"));
        var secret = "CARD-" + ThreadLocalRandom.current().nextInt(10_000_000, 100_000_000);
        var told = Map.<String, Object>of(
                "businessKey",
                secret,
                "step",
                "charge " + secret,
                "error",
                "refused",
                "payload",
                "x",
                "payloadType",
                "text/plain",
                "steps",
                List.of(Map.of("name", "ask for " + secret, "at", Instant.now().toString())),
                "attachments",
                List.of(Map.of(
                        "name",
                        secret + ".txt",
                        "type",
                        "text/plain",
                        "contentBase64",
                        Base64.getEncoder().encodeToString("y".getBytes(UTF_8)))));
        assertThat(send(List.of(failed(subject, told))).statusCode()).isEqualTo(202);
        var analyst = loggedIn("analyst");
        var message = messageOf(subject);
        var one = analyst.page(message);
        assertThat(one.html()).doesNotContain(secret).contains("charge ▒▒▒▒", "ask for ▒▒▒▒", "▒▒▒▒.txt");
        var list = "/messages/search?interface=" + subject.key();
        assertThat(analyst.page(list).html()).doesNotContain(secret).contains("▒▒▒▒</a>");
        assertThat(analyst.get(list.replace("search?", "search.csv?")).body())
                .doesNotContain(secret)
                .contains("charge ▒▒▒▒");
        for (var download : List.of("/payload", "/attachments/0"))
            assertThat(analyst.get(message + download).headers().map().toString())
                    .doesNotContain(secret);

        // Whether there is one is not told, neither with the interface nor without.
        for (var asked : List.of(list + "&key=" + secret, "/messages/search?key=" + secret))
            assertThat(analyst.page(asked).text())
                    .contains("This business key looks like what is masked")
                    .doesNotContain("Interface " + subject.key() + " ▒");
        assertThat(analyst.get("/messages/search/count?key=" + secret).body()).contains("0 found");
        assertThat(analyst.get("/messages/search.csv?key=" + secret).statusCode())
                .isEqualTo(400);
        assertThat(analyst.page("/search?q=" + secret).html()).doesNotContain(message);
        lead.post("/messages/masks/" + idOf(name) + "/delete", "");
        assertThat(analyst.page(list + "&key=" + secret).html()).contains(secret, "row-open");
    }
}
