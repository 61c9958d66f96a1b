package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Whom;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.work.channels.Channels;
import app.morvet.work.channels.WebCalls;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What is answered at a paging service is so here, by whoever it was, and only where the service shows that it is the one. */
class AnswersApiTest extends ToldPeople {
    private static final String SECRET = "pager secret";

    @Autowired
    private Channels channels;

    @Autowired
    private Connections connections;

    @Autowired
    private DeliveryStore deliveries;

    private String key = "";
    private String item = "";
    private String first = "";

    @BeforeEach
    void somethingIsPaged() throws Exception {
        host = component(host());
        first = mail(onDuty(0, "Otso", ""));
        key = "pager-" + host.key();
        item = "item " + host.key();
        var path = "/page-" + host.key();
        DESK.answer(path, 201, "{\"id\": \"%s\"}".formatted(item));
        channels.web(
                key,
                "The pager of " + host.key(),
                DESK.url(),
                SECRET,
                Map.of("path", path, "template", "{\"what\": \"{{title}}\"}", "idPath", "$.id"));
        long pager = connections.byKey(WebCalls.SORT, key).map(Connection::id).orElseThrow();
        rule("Page", Happening.OPENED, null, false, new Step(Duration.ZERO, new Whom.Outside(pager), List.of()));
        raised(guard("hot"), host, (int) Duration.between(T, Instant.now()).toMinutes(), CRITICAL, 9);
        eventually(() -> assertThat(deliveries.ofCase(caseId()))
                .anySatisfy(one -> assertThat(one.outsideId()).isEqualTo(item)));
    }

    private HttpResponse<String> answer(String body, String... headers) throws Exception {
        var request = HttpRequest.newBuilder(URI.create("http://localhost:" + port + "/api/v1/answers/" + key))
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(body));
        if (headers.length > 0) request.headers(headers);
        return HTTP.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    private HttpResponse<String> answer(String what, String by) throws Exception {
        return answer(body(item, what, by), "Authorization", "Bearer " + SECRET);
    }

    private static String body(String id, String what, String by) {
        return "{\"id\": \"%s\", \"answer\": \"%s\", \"by\": \"%s\", \"words\": \"on it\"}".formatted(id, what, by);
    }

    private static String signed(String time, String body) throws Exception {
        var mac = Mac.getInstance("HmacSHA256");
        mac.init(new SecretKeySpec(SECRET.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
        return HexFormat.of().formatHex(mac.doFinal((time + "\n" + body).getBytes(StandardCharsets.UTF_8)));
    }

    @Test
    void whoTakesItThereHasItHere() throws Exception {
        var taken = answer("take", first);
        assertThat(taken.statusCode()).as(taken.body()).isEqualTo(200);
        assertThat(json.readTree(taken.body()).path("case").asLong()).isEqualTo(caseId());
        assertThat(logOf(theCase(host))).contains("took the case");
        // Told once more it is so once; to somebody else it is told who has it.
        assertThat(answer("take", first).statusCode()).isEqualTo(200);
        assertThat(logOf(theCase(host))).filteredOn("took the case"::equals).hasSize(1);
        var late = answer("take", "lead");
        assertThat(late.statusCode()).isEqualTo(422);
        assertThat(late.body()).contains("Otso of " + host.key() + " has it already");
        assertThat(answer("note", "lead").statusCode()).isEqualTo(200);
        assertThat(logOf(theCase(host))).contains("on it");
    }

    @Test
    void aSignatureIsGoodForItsBodyAndAFewMinutes() throws Exception {
        var body = body(item, "quiet", first);
        var now = "" + Instant.now().getEpochSecond();
        var old = "" + Instant.now().minusSeconds(400).getEpochSecond();
        assertThat(answer(body, "Morvet-Time", old, "Morvet-Signature", signed(old, body))
                        .statusCode())
                .isEqualTo(401);
        assertThat(answer(body + " ", "Morvet-Time", now, "Morvet-Signature", signed(now, body))
                        .statusCode())
                .isEqualTo(401);
        assertThat(answer(body, "Morvet-Time", now, "Morvet-Signature", "zz").statusCode())
                .isEqualTo(401);
        assertThat(theCase(host).progress().quietUntil()).isNull();
        assertThat(answer(body, "Morvet-Time", now, "Morvet-Signature", signed(now, body))
                        .statusCode())
                .isEqualTo(200);
        assertThat(theCase(host).progress().quietUntil()).isNotNull();
    }

    @Test
    void whatCannotBeUnderstoodSaysSoAndChangesNothing() throws Exception {
        assertThat(answer(body(item, "take", first)).statusCode()).isEqualTo(401);
        assertThat(answer(body(item, "take", first), "Authorization", "Bearer no")
                        .statusCode())
                .isEqualTo(401);
        var bearer = new String[] {"Authorization", "Bearer " + SECRET};
        assertThat(answer("{", bearer).statusCode()).isEqualTo(400);
        assertThat(answer(body("unheard of", "take", first), bearer).statusCode())
                .isEqualTo(404);
        assertThat(answer("take", "nobody@nowhere.example").body()).contains("There is nobody");
        assertThat(answer("take", "").body()).contains("Say by whom");
        assertThat(answer("explode", first).body()).contains("Answer is take, quiet or note");
        var nothing = answer(body(item, "note", first).replace("on it", " "), bearer);
        assertThat(nothing.statusCode()).as(nothing.body()).isEqualTo(422);
        assertThat(answer("[1]", bearer).statusCode()).isEqualTo(404);
        assertThat(theCase(host).progress().takenBy()).isNull();
    }
}
