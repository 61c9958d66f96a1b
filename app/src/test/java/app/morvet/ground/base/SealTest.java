package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Base64;
import java.util.concurrent.ThreadLocalRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is secret, as it is stored. */
class SealTest {
    private static final String OLD = key();
    private static final String NEW = key();

    private static String key() {
        var bytes = new byte[32];
        ThreadLocalRandom.current().nextBytes(bytes);
        return Base64.getEncoder().encodeToString(bytes);
    }

    @Test
    void whatIsSealedDoesNotSayWhatItIsAndIsOpenedAgain() {
        var seal = new Seal(OLD);
        var sealed = seal.close("Authorization: Bearer überall", "desk");
        assertThat(sealed).doesNotContain("Bearer").doesNotContain("Authorization");
        assertThat(seal.open(sealed, "desk")).isEqualTo("Authorization: Bearer überall");
        assertThat(new Seal(OLD).open(sealed, "desk")).isEqualTo("Authorization: Bearer überall");
    }

    @Test
    void theSameTextIsSealedOtherwiseEachTime() {
        var seal = new Seal(OLD);
        assertThat(seal.close("secret", "desk")).isNotEqualTo(seal.close("secret", "desk"));
    }

    @Test
    void whatWasChangedOrPutElsewhereIsNotOpened() {
        var seal = new Seal(OLD);
        var sealed = seal.close("secret", "desk");
        assertThatThrownBy(() -> seal.open(sealed, "scheduler")).isInstanceOf(IllegalStateException.class);
        char last = sealed.charAt(sealed.length() - 6);
        var changed = sealed.substring(0, sealed.length() - 6)
                + (last == 'A' ? 'B' : 'A')
                + sealed.substring(sealed.length() - 5);
        assertThatThrownBy(() -> seal.open(changed, "desk")).isInstanceOf(IllegalStateException.class);
    }

    /** The new key is put before the old one; after a start the old one is needed no more. */
    @Test
    void aKeyIsChangedWithoutLosingAnything() {
        var before = new Seal(OLD).close("secret", "desk");
        var both = new Seal(NEW + " , " + OLD);
        assertThat(both.isOfToday(before)).isFalse();
        var anew = both.close(both.open(before, "desk"), "desk");
        assertThat(both.isOfToday(anew)).isTrue();
        assertThat(new Seal(NEW).open(anew, "desk")).isEqualTo("secret");
        assertThatThrownBy(() -> new Seal(NEW).open(before, "desk"))
                .hasMessageContaining("morvet.secret-keys")
                .hasMessageContaining("put the one that sealed them there as well");
    }

    @Test
    void whatWasStoredBeforeThereWasAKeyIsReadAndIsToBeSealed() {
        var seal = new Seal(OLD);
        assertThat(seal.open("X-Who: morvet", "desk")).isEqualTo("X-Who: morvet");
        assertThat(seal.isOfToday("X-Who: morvet")).isFalse();
        assertThat(seal.isOfToday("")).isTrue();
        assertThat(seal.close("", "desk")).isEmpty();
    }

    @Test
    void withoutAKeyNothingSecretIsStoredAndNothingSealedIsTakenForOpen() {
        var none = new Seal("");
        assertThatThrownBy(() -> none.close("secret", "desk")).hasMessageContaining("head -c 32 /dev/urandom | base64");
        assertThat(none.isOfToday("X-Who: morvet")).isTrue();
        assertThat(none.isOfToday(new Seal(OLD).close("x", "desk"))).isFalse();
    }

    @ParameterizedTest
    @ValueSource(strings = {"short", "not base64 at all!", "AAAA"})
    void aKeyThatIsNoneIsRefusedAtTheStart(String key) {
        assertThatThrownBy(() -> new Seal(key))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("32 bytes in Base64");
    }
}
