package app.morvet.ground.access;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;

/** The people who work here. */
@Service
public class People {
    private final AccessStore store;
    private final PasswordEncoder passwords;

    People(AccessStore store, PasswordEncoder passwords) {
        this.store = store;
        this.passwords = passwords;
    }

    public List<Person> all() {
        return store.people();
    }

    public Optional<Person> byId(long id) {
        return store.person(id);
    }

    public void add(String login, String name, Role role, String password) {
        store.add(login.toLowerCase(Locale.ROOT), name, role, passwords.encode(password));
    }
}
