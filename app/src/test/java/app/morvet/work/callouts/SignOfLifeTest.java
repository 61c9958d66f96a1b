package app.morvet.work.callouts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.MorvetTest;
import app.morvet.core.callouts.Whom;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A sign of life goes the whole way each minute, so that its absence is heard of. */
class SignOfLifeTest extends MorvetTest {
    @Autowired
    private SignOfLife sign;

    @Autowired
    private DeliveryStore deliveries;

    @Autowired
    private CallOutRules callOutRules;

    @AfterEach
    void toNobody() {
        sign.set(null, person("admin"));
        jdbc.sql("delete from delivery where about = 'SIGN'").update();
    }

    @Test
    void itArrivesAndLeavesNothingBehind() throws Exception {
        var admin = loggedIn("admin");
        assertThat(admin.post("/setup/channels/sign", Map.of("whom", "address", "address", "watcher@sundrava.example"))
                        .statusCode())
                .isEqualTo(302);
        eventually(() -> assertThat(MAIL.getReceivedMessagesForDomain("watcher@sundrava.example"))
                .isNotEmpty());
        assertThat(MAIL.getReceivedMessagesForDomain("watcher@sundrava.example")[0].getSubject())
                .isEqualTo("Sign of life: Morvet can call people");
        eventually(() -> assertThat(jdbc.sql("select count(*) from delivery where about = 'SIGN'")
                        .query(Integer.class)
                        .single())
                .isZero());
        assertThat(sign.run("1").orElseThrow())
                .as("one a minute")
                .isBetween(
                        Instant.now().plus(Duration.ofSeconds(50)),
                        Instant.now().plus(Duration.ofSeconds(61)));
        assertThat(admin.page("/setup/channels/sign").select("[name=address]").val())
                .isEqualTo("watcher@sundrava.example");
    }

    @Test
    void oneThatDoesNotGetThroughIsTriedOnAndThereIsNoSecond() {
        setUpOnce();
        MAIL.stop();
        try {
            sign.set(new Whom.Address("nobody@sundrava.example"), person("admin"));
            sign.run("1");
            sign.run("1");
            assertThat(deliveries.ofRule(callOutRules.all().getLast().id(), 10)).hasSize(1);
        } finally {
            MAIL.start();
        }
    }

    @Test
    void nobodyIsWokenByIt() {
        assertThatThrownBy(() -> sign.set(new Whom.OnDuty(Whom.OWNER, 0), person("admin")))
                .hasMessageContaining("not to people");
        sign.set(null, person("admin"));
        assertThat(sign.run("1")).isEmpty();
    }
}
