package app.morvet.ground.access;

import app.morvet.ground.base.WrongSetting;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/** How the first one gets in: where nobody is an admin, whoever starts Morvet says with which password {@code admin} logs in. */
@Component
class FirstAdmin {
    private static final String LOGIN = "admin";
    private static final String NAME = "First admin";
    private static final Logger LOG = LoggerFactory.getLogger(FirstAdmin.class);

    private final AccessStore store;
    private final PasswordEncoder passwords;
    private final String password;

    FirstAdmin(
            AccessStore store, PasswordEncoder passwords, @Value("${morvet.first-admin-password:}") String password) {
        this.store = store;
        this.passwords = passwords;
        this.password = password;
    }

    /** @throws WrongSetting where the password is none to begin with; Morvet does not start then */
    @EventListener(ApplicationReadyEvent.class)
    void make() {
        if (password.isEmpty() || store.admins() > 0) return;
        try {
            // Their name is not theirs yet.
            Passwords.check(password, LOGIN, "");
        } catch (IllegalArgumentException wrong) {
            throw new WrongSetting(
                    "morvet.first-admin-password",
                    String.valueOf(wrong.getMessage()),
                    "Give another password; \"" + LOGIN + "\" may change it once logged in.");
        }
        try {
            store.add(LOGIN, NAME, Role.ADMIN, "", "", passwords.encode(password));
            LOG.info("nobody was an admin: made \"{}\", who logs in with morvet.first-admin-password", LOGIN);
        } catch (DuplicateKeyException taken) {
            LOG.warn(
                    "nobody is an admin, and somebody else logs in as \"{}\"; make that person one in the database",
                    LOGIN);
        }
    }
}
