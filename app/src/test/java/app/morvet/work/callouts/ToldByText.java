package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.ground.connections.Connections;
import app.morvet.work.channels.Channels;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;

/** People who are told by text message, through a gateway of their own. */
abstract class ToldByText extends ToldPeople {
    static final Pattern LINK = Pattern.compile("/take/([A-Za-z0-9_-]{16})");

    @Autowired
    Channels channels;

    @Autowired
    Connections connections;

    @Autowired
    DeliveryStore deliveries;

    @Autowired
    DeliveryTries tries;

    @Autowired
    WordingStore wordings;

    @Autowired
    DeliverySending sending;

    @Autowired
    CallOutController now;

    long first;
    long guard;
    int minute;
    String phone = "";
    String texts = "";

    @BeforeEach
    void gateway() {
        host = component("host");
        phone = "+358 00 555 " + (1000 + host.id() % 9000);
        first = onDuty(0, "Otso", phone);
        guard = guard("critical");
        minute = (int) Duration.between(T, Instant.now()).toMinutes();
        texts = "/texts-" + host.key();
        DESK.answer(texts, 202, "{}");
        channels.text("texts-" + host.key(), "Gateway", DESK.url(), texts, "to = {{to}}\nwords = {{text}}");
    }

    /** The first gateway there is is taken; each test has one of its own. */
    @AfterEach
    void noGateway() {
        jdbc.sql("delete from delivery_try").update();
        jdbc.sql("update delivery set connection_id = null, state = 'SENT', further = '{}'")
                .update();
        jdbc.sql("delete from outside_call").update();
        jdbc.sql("delete from outside_connection where sort in ('text', 'web')").update();
    }

    void critical() {
        raised(guard, host, minute, CRITICAL, 9);
    }

    static Step step(Whom whom, int after, Way... ways) {
        return new Step(Duration.ofMinutes(after), whom, List.of(ways));
    }

    void byText(Way... ways) {
        rule("Text", Happening.OPENED, null, false, step(new Whom.OnDuty(Whom.OWNER, 0), 0, ways));
    }

    /** What arrived on the telephone. */
    List<String> texts() {
        return DESK.heard(texts).stream()
                .map(one -> {
                    assertThat(one.headers().get("Content-Type")).isEqualTo("application/x-www-form-urlencoded");
                    return java.net.URLDecoder.decode(one.body(), java.nio.charset.StandardCharsets.UTF_8);
                })
                .toList();
    }

    Delivery delivery() {
        return deliveries.ofCase(caseId()).getLast();
    }
}
