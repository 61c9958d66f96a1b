package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.MorvetTest;
import app.morvet.ground.base.WrongSetting;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.transaction.support.TransactionTemplate;

class FirstAdminTest extends MorvetTest {
    @Autowired
    private AccessStore store;

    @Autowired
    private PasswordEncoder passwords;

    @Autowired
    private TransactionTemplate transaction;

    private void whereNobodyIsOne(Runnable then) {
        setUpOnce();
        transaction.executeWithoutResult(status -> {
            jdbc.sql("update person set role = 'ANALYST', login = login || '-was' where role = 'ADMIN'")
                    .update();
            then.run();
            status.setRollbackOnly();
        });
    }

    private FirstAdmin with(String password) {
        return new FirstAdmin(store, passwords, password);
    }

    @Test
    void whereNobodyIsAnAdminTheOneWhoStartsItSaysThePassword() {
        whereNobodyIsOne(() -> {
            with("").make();
            assertThat(store.admins()).isZero();
            with("seven herons at dusk").make();
            var made = store.byLogin("admin").orElseThrow();
            assertThat(made.person().role()).isEqualTo(Role.ADMIN);
            assertThat(passwords.matches("seven herons at dusk", made.passwordHash()))
                    .isTrue();
            with("another heron at noon").make();
            assertThat(store.admins()).isEqualTo(1);
        });
    }

    /** Nobody who starts it knows what Morvet calls the first one. */
    @Test
    void thatItIsTheFirstMayStandInThePassword() {
        whereNobodyIsOne(() -> {
            with("first light on the quay").make();
            assertThat(store.byLogin("admin")).isPresent();
        });
    }

    @Test
    void aPasswordThatIsTriedFirstIsNone() {
        whereNobodyIsOne(() -> assertThatThrownBy(() -> with("password123").make())
                .isInstanceOf(WrongSetting.class)
                .hasMessageStartingWith("morvet.first-admin-password: "));
    }
}
