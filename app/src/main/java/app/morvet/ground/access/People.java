package app.morvet.ground.access;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The people who work here, and those of the teams who are called. */
@Service
public class People {
    private static final int LONGEST = 100;
    private static final String LOGIN = "[a-z0-9._-]{2,60}";

    /**
     * A person with how they are reached.
     *
     * @param mail   empty where they have none
     * @param phone  as it is dialled, {@code +358 00 555 0101}; empty where they have none
     * @param active whether they log in and are offered
     */
    public record Card(Person person, String mail, String phone, boolean active) {
        /** @throws IllegalArgumentException where they cannot be reached so */
        public Card {
            if (person.name().isBlank() || person.name().length() > LONGEST)
                throw new IllegalArgumentException("a person has a name of at most 100 letters");
            if (!mail.isEmpty() && !mail.matches("[^@\\s]{1,100}@[^@\\s]{1,150}"))
                throw new IllegalArgumentException("\"" + mail + "\" is no mail address");
            if (!phone.isEmpty() && !phone.matches("\\+?[0-9][0-9 ]{4,28}[0-9]"))
                throw new IllegalArgumentException("\"" + phone + "\" is no telephone number such as +358 00 555 0101");
        }
    }

    /**
     * What is said elsewhere of somebody who was let in there.
     *
     * @param id    which stays the same, whatever they are called
     * @param teams keys of those that they are of
     */
    record Elsewhere(String id, String login, String name, Role role, String mail, List<String> teams) {}

    /** Somebody was let in who elsewhere is said to be of teams, by their keys. */
    public record OfTeams(Person person, List<String> teams) {}

    private final AccessStore store;
    private final PasswordEncoder passwords;
    private final Audit audit;
    private final ApplicationEventPublisher events;

    People(AccessStore store, PasswordEncoder passwords, Audit audit, ApplicationEventPublisher events) {
        this.events = events;
        this.store = store;
        this.passwords = passwords;
        this.audit = audit;
    }

    /** Those who log in, by name. */
    public List<Person> all() {
        return store.people();
    }

    /** What everybody is called, by id; also those who are switched off by now. */
    public Map<Long, String> names() {
        return store.names();
    }

    public Optional<Person> byId(long id) {
        return store.person(id);
    }

    /** Also those who are switched off. */
    public List<Card> cards() {
        return store.cards();
    }

    public Optional<Card> card(long id) {
        return store.card(id);
    }

    /** Sets one up by the application itself, with whatever password. */
    public void add(String login, String name, Role role, String password) {
        store.add(login.toLowerCase(Locale.ROOT), name, role, "", "", passwords.encode(password));
    }

    /** Sets up one who has no log-in and is called, by the application itself. */
    public long addMember(String login, String name, String mail, String phone) {
        return store.add(login.toLowerCase(Locale.ROOT), name, Role.MEMBER, mail, phone, "");
    }

    /** Has a member log in, by the application itself, with whatever password. */
    public void logsIn(long member, String password) {
        store.setPassword(member, passwords.encode(password));
    }

    /**
     * @param password may be empty for a team member, who then has no log-in
     * @return the id
     * @throws IllegalArgumentException saying what cannot be
     */
    @Transactional
    public long make(String login, Card one, String password, Person by) {
        var person = one.person();
        var as = login.strip().toLowerCase(Locale.ROOT);
        if (!as.matches(LOGIN))
            throw new IllegalArgumentException("a login is 2 to 60 letters, digits, dots and dashes");
        if (store.isTaken(as)) throw new IllegalArgumentException("somebody else logs in as \"" + as + "\"");
        boolean logsIn = person.role() != Role.MEMBER || !password.isEmpty();
        if (logsIn) Passwords.check(password, as, person.name());
        long id = store.add(
                as, person.name(), person.role(), one.mail(), one.phone(), logsIn ? passwords.encode(password) : "");
        audit.record(by, "person made", "person " + person.name(), null, words(one));
        return id;
    }

    /**
     * Changes a person; whoever is switched off is logged out.
     *
     * @param password a new one, or empty for the one of before
     * @throws IllegalArgumentException saying what cannot be
     */
    @Transactional
    public void change(Card one, String password, Person by) {
        var person = one.person();
        var before = store.card(person.id()).orElseThrow();
        boolean admin = before.active() && before.person().role() == Role.ADMIN;
        if (admin && !(one.active() && person.role() == Role.ADMIN) && store.admins() == 1)
            throw new IllegalArgumentException("this is the only admin; make another first");
        boolean logsIn = person.role() != Role.MEMBER;
        if (!password.isEmpty() || logsIn && before.person().role() == Role.MEMBER) {
            Passwords.check(password, before.person().login(), person.name());
            store.setPassword(person.id(), passwords.encode(password));
            audit.record(by, "password set", "person " + person.name(), null, null);
        }
        store.change(one);
        if (!words(before).equals(words(one)))
            audit.record(by, "person changed", "person " + before.person().name(), words(before), words(one));
    }

    private static String words(Card one) {
        return "%s, %s%s%s%s"
                .formatted(
                        one.person().name(),
                        one.person().role().word(),
                        one.mail().isEmpty() ? "" : ", " + one.mail(),
                        one.phone().isEmpty() ? "" : ", " + one.phone(),
                        one.active() ? "" : ", switched off");
    }

    /**
     * Somebody changes what others reach them by.
     *
     * @throws IllegalArgumentException saying what cannot be
     */
    @Transactional
    public void reach(Person who, String mail, String phone) {
        var before = store.card(who.id()).orElseThrow();
        change(new Card(before.person(), mail.strip(), phone.strip(), before.active()), "", who);
    }

    /** @throws IllegalArgumentException where this is not somebody's own password */
    void checkOwn(Person who, String password) {
        if (!passwords.matches(password, store.passwordHash(who.id()).orElse("")))
            throw new IllegalArgumentException("the password that you have now is another");
    }

    /**
     * Somebody changes their own password; whoever else is logged in with the old one is logged out.
     *
     * @throws IllegalArgumentException where the old one is wrong, or the new one not good enough
     */
    @Transactional
    public void ownPassword(Person who, String old, String fresh, @Nullable String again) {
        checkOwn(who, old);
        if (!fresh.equals(again)) throw new IllegalArgumentException("the new password stands there in two ways");
        if (fresh.equals(old)) throw new IllegalArgumentException("the new password is the one that you have now");
        Passwords.check(fresh, who.login(), who.name());
        store.setPassword(who.id(), passwords.encode(fresh));
        audit.record(who, "password changed", "person " + who.name(), null, null);
    }

    /**
     * Who somebody is who was let in elsewhere: made when they first come, and changed to what is said of them there. Whoever is called
     * there as somebody logs in here is them, unless somebody else came as them before.
     *
     * @throws IllegalArgumentException saying why they are not let in
     */
    @Transactional
    public Person fromElsewhere(Elsewhere said) {
        var card = store.fromElsewhere(said.id()).orElse(null);
        if (card == null) card = firstFromElsewhere(said);
        if (!card.active()) throw new IllegalArgumentException("You are switched off here. Ask your admin.");
        var before = card.person();
        var person = new Person(before.id(), before.login(), said.name(), said.role());
        change(new Card(person, said.mail().isEmpty() ? card.mail() : said.mail(), card.phone(), true), person);
        events.publishEvent(new OfTeams(person, said.teams()));
        return person;
    }

    private Card firstFromElsewhere(Elsewhere said) {
        if (!said.login().matches(LOGIN))
            throw new IllegalArgumentException(
                    "It is not said there what you log in as here, or not as it can be: \"%s\"."
                            .formatted(said.login()));
        var known = store.cards().stream()
                .filter(one -> one.person().login().equals(said.login()))
                .findFirst();
        // Nobody knows this password: whoever comes from elsewhere comes from there always.
        long id = known.map(one -> one.person().id())
                .orElseGet(() -> store.add(
                        said.login(),
                        said.name(),
                        said.role(),
                        said.mail(),
                        "",
                        passwords.encode(UUID.randomUUID().toString())));
        if (!store.bind(id, said.id()))
            throw new IllegalArgumentException(
                    "Somebody else has come here as %s before. Ask your admin.".formatted(said.login()));
        var card = store.card(id).orElseThrow();
        audit.record(card.person(), "first came from elsewhere", "person " + said.name(), null, said.id());
        return card;
    }

    private void change(Card one, Person by) {
        var before = store.card(one.person().id()).orElseThrow();
        if (words(before).equals(words(one))) return;
        if (before.person().role() == Role.ADMIN && one.person().role() != Role.ADMIN && store.admins() == 1)
            throw new IllegalArgumentException(
                    "You are the only admin here, and there you are none. Make another first.");
        store.change(one);
        audit.record(by, "person changed", "person " + before.person().name(), words(before), words(one));
    }
}
