package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Whom;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.work.channels.Channels;
import app.morvet.work.channels.WebCalls;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What is paged and is not known there any more, since it was thrown away or the service began anew. */
class GoneOutsideTest extends ToldPeople {
    @Autowired
    private Channels channels;

    @Autowired
    private Connections connections;

    @Autowired
    private DeliveryStore deliveries;

    @Autowired
    private DeliverySending sending;

    private String path;
    private long guard;
    private int minute;

    @BeforeEach
    void paged() throws Exception {
        host = component("host");
        path = "/gone-" + host.key();
        DESK.answer(path, 201, "{\"id\": \"p-1\"}");
        channels.web(
                "gone-" + host.key(),
                "The bridge",
                DESK.url(),
                "",
                Map.of(
                        "path", path,
                        "template", "{\"state\": \"{{state}}\"}",
                        "idPath", "$.id",
                        "laterMethod", "PUT",
                        "laterPath", path + "/items/{{id}}"));
        long bridge = connections
                .byKey(WebCalls.SORT, "gone-" + host.key())
                .map(Connection::id)
                .orElseThrow();
        var page = new Step(Duration.ZERO, new Whom.Outside(bridge), List.of());
        ruleFrom(CRITICAL, "Bridge at its worst", Happening.OPENED, null, false, page);
        ruleFrom(WARNING, "Bridge", Happening.OPENED, null, false, page);
        guard = guard("paged");
        minute = (int) Duration.between(T, Instant.now()).toMinutes();
        raised(guard, host, minute, WARNING, 3);
        eventually(() -> assertThat(latest().outsideId()).isEqualTo("p-1"));
        DESK.answer(path + "/items/p-1", 404, "{}");
        DESK.answer(path, 201, "{\"id\": \"p-2\"}");
    }

    @AfterEach
    void noBridge() {
        jdbc.sql("delete from delivery_try").update();
        jdbc.sql("update delivery set connection_id = null, state = 'SENT', further = '{}'")
                .update();
        jdbc.sql("delete from outside_call").update();
        jdbc.sql("delete from outside_connection where sort = 'web'").update();
    }

    private Delivery latest() {
        return deliveries.ofCase(caseId()).getFirst();
    }

    private List<String> heard() {
        return DESK.heard(path).stream()
                .map(one -> one.method() + " " + one.path().replace(path, ""))
                .toList();
    }

    @Test
    void whatIsStillWrongIsToldAnew() throws Exception {
        rose(guard, host, minute + 1, 9);
        eventually(() -> assertThat(latest().outsideId()).isEqualTo("p-2"));
        assertThat(theCase(host).severity()).isEqualTo(CRITICAL);
        assertThat(heard()).containsExactly("POST ", "PUT /items/p-1", "POST ");
    }

    @Test
    void thatItIsOverNeedNotBeToldThere() {
        cleared(guard, host, minute + 1, 3);
        sending.run(latest().id().toString());
        assertThat(latest().state()).isEqualTo(Delivery.State.SENT);
        assertThat(heard()).containsExactly("POST ", "PUT /items/p-1");
    }
}
