package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Which passwords people may choose. */
class PasswordsTest {
    private static void check(String password) {
        Passwords.check(password, "annika", "Annika Ruuth");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "gulls | a password has at least 10 letters",
                "ninelette | a password has at least 10 letters",
                // What everybody thinks of, with what everybody puts behind it.
                "qwertyuiop | among those that are tried first",
                "QwertyUiop | among those that are tried first",
                "password2027! | among those that are tried first",
                "welcomewelcome1 | among those that are tried first",
                "administrator1 | among those that are tried first",
                "1q2w3e4r5t | among those that are tried first",
                "aaaaaaaaaaaa | at least 5 different letters",
                "ababababababab | at least 5 different letters",
                "bcdefghijklm | no row of letters or digits",
                "lkjihgfedcba | no row of letters or digits",
                "ruuth-is-at-sea | does not have your login or your name in it",
                "the ANNIKA of old | does not have your login or your name in it",
            })
    void whatIsEasilyGuessedIsRefused(String password, String why) {
        assertThatThrownBy(() -> check(password))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining(why);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "grey gulls over piers",
                "tide-reader-rope",
                "käytävä meren yli",
                "p4ss the salt please",
                "19 harbours"
            })
    void whatIsLongAndOnesOwnIsTaken(String password) {
        assertThatCode(() -> check(password)).doesNotThrowAnyException();
    }

    /** Only so many bytes are hashed: what lies behind them would not count. */
    @ParameterizedTest
    @ValueSource(ints = {72, 73, 200})
    void whatIsLongerThanWhatIsHashedIsRefused(int length) {
        var password = "tide and rope ".repeat(20).substring(0, length);
        if (length <= 72) assertThatCode(() -> check(password)).doesNotThrowAnyException();
        else assertThatThrownBy(() -> check(password)).hasMessageContaining("at most 72 letters");
    }
}
