package app.morvet.standins;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.Test;

/** The stand-in of a ticket desk: one ticket of a key, call-backs, and a past. */
class DeskTest extends AllStandIns {
    @Test
    void theDeskMakesOneTicketOfAKeyAndAnswersNothingWhileItIsDown() throws Exception {
        var ticket = "{\"summary\": \"Please look\", \"group\": \"platform\"}";
        assertThat(post("/desk/api/tickets", "application/json", ticket).statusCode())
                .isEqualTo(401);
        var headers = new String[] {"Authorization", "Bearer token", "Idempotency-Key", "k1"};
        var first = post("/desk/api/tickets", "application/json", ticket, headers);
        var again = post("/desk/api/tickets", "application/json", ticket, headers);
        assertThat(first.statusCode()).isEqualTo(201);
        assertThat(again.body()).isEqualTo(first.body());
        assertThat(post("/desk/api/tickets", "application/json", "{}", "Authorization", "Bearer token")
                        .statusCode())
                .isEqualTo(400);
        var number = json.readTree(first.body()).get("ticket").get("number").asString();
        post("/desk/tickets/" + number, "application/x-www-form-urlencoded", "state=returned&reason=not+ours");
        var read = request("/desk/api/tickets/" + number).header("Authorization", "Bearer token");
        assertThat(http.send(read.build(), HttpResponse.BodyHandlers.ofString()).body())
                .contains("\"returned\"", "not ours");
        post("/desk/down", "application/x-www-form-urlencoded", "down=true");
        assertThat(http.send(read.build(), HttpResponse.BodyHandlers.ofString()).statusCode())
                .isEqualTo(503);
        post("/desk/down", "application/x-www-form-urlencoded", "down=false");
    }

    @Test
    void aTicketBringsItsFilesAlongAndCallsBackWhenItIsChanged() throws Exception {
        var called = new CopyOnWriteArrayList<String>();
        var back = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        back.createContext("/back", exchange -> {
            called.add(exchange.getRequestHeaders().getFirst("Authorization") + " "
                    + new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
            exchange.sendResponseHeaders(204, -1);
            exchange.close();
        });
        back.start();
        try {
            var content = java.util.Base64.getEncoder().encodeToString("a;b".getBytes(StandardCharsets.UTF_8));
            var answer = post(
                    "/desk/api/tickets",
                    "application/json",
                    """
                    {"summary": "<b>Gangway</b>", "group": "platform", "callback": "http://127.0.0.1:%d/back",
                     "evidence": [{"businessKey": "BK-1"}, "no evidence"],
                     "attachments": [{"name": "rows.csv", "content": "%s"}]}"""
                            .formatted(back.getAddress().getPort(), content),
                    "Authorization",
                    "Bearer token");
            var number =
                    json.readTree(answer.body()).get("ticket").get("number").asString();
            assertThat(get("/desk").body()).contains(number, "&lt;b&gt;Gangway&lt;/b&gt;");
            assertThat(get("/desk/tickets/" + number).body()).contains("BK-1", "rows.csv");
            assertThat(get("/desk/tickets/" + number + "/attachments/rows.csv").body())
                    .isEqualTo("a;b");
            assertThat(get("/desk/tickets/" + number + "/attachments/other.csv").statusCode())
                    .isEqualTo(404);
            assertThat(get("/desk/tickets/SD-9/attachments/rows.csv").statusCode())
                    .isEqualTo(404);
            post("/desk/tickets/" + number, "application/x-www-form-urlencoded", "state=accepted");
            until(() -> !called.isEmpty());
            assertThat(called.getFirst())
                    .startsWith("Bearer ")
                    .endsWith("{\"ticket\":{\"number\":\"" + number + "\"}}");
        } finally {
            back.stop(0);
        }
    }

    @Test
    void ticketsOfAPastAreThereOnceAndNumbersGoOnAfterThem() throws Exception {
        var past =
                """
                [{"number": "SD-7001", "key": "p-1", "summary": "Long ago", "description": "", "group": "platform",
                  "caller": "", "link": "", "callback": "", "evidence": [], "attachments": [], "state": "done", "reason": "",
                  "openedAt": "2027-03-01T10:00:00Z"}]""";
        assertThat(post("/desk/past", "application/json", past).statusCode()).isEqualTo(401);
        for (int i = 0; i < 2; i++)
            assertThat(post("/desk/past", "application/json", past, "Authorization", "Bearer token")
                            .statusCode())
                    .isEqualTo(200);
        assertThat(get("/desk").body().split("SD-7001", -1)).hasSizeLessThan(5);
        var next = post(
                "/desk/api/tickets", "application/json", "{\"summary\": \"Next\"}", "Authorization", "Bearer token");
        assertThat(json.readTree(next.body()).get("ticket").get("number").asString())
                .isEqualTo("SD-7002");
    }
}
