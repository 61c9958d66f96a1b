package app.morvet.standins.hub;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** What the hub remembers of messages that were sent again. */
class AttemptsTest {
    private final Attempts attempts = new Attempts();

    @Test
    void theFirstTimeItIsSentAgainIsItsSecondTry() {
        assertThat(attempts.next("m-1")).isEqualTo(2);
        assertThat(attempts.next("m-1")).isEqualTo(3);
        assertThat(attempts.next("m-2")).isEqualTo(2);
    }

    @Test
    void whatWasAnsweredForAKeyIsAnsweredAgain() {
        assertThat(attempts.known("k")).isEmpty();
        var outcome = new Attempts.Outcome("m-1", "delivered", 2, null, null);
        attempts.remember("k", outcome);
        assertThat(attempts.known("k")).contains(outcome);
        assertThat(attempts.known("other")).isEmpty();
    }

    @Test
    void asManyFailAsThePanelSaidAndThenNone() {
        attempts.failNext("bunker-delivery-notes", 2);
        assertThat(attempts.takeStubborn("customer-updates")).isFalse();
        assertThat(attempts.takeStubborn("bunker-delivery-notes")).isTrue();
        assertThat(attempts.failsNext("bunker-delivery-notes")).isEqualTo(1);
        assertThat(attempts.takeStubborn("bunker-delivery-notes")).isTrue();
        assertThat(attempts.takeStubborn("bunker-delivery-notes")).isFalse();
        attempts.failNext("bunker-delivery-notes", 1);
        attempts.failNext("bunker-delivery-notes", 0);
        assertThat(attempts.takeStubborn("bunker-delivery-notes")).isFalse();
    }
}
