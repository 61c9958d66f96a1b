package app.morvet.ground.access;

import jakarta.servlet.http.HttpSession;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.stereotype.Service;

/** Where somebody is logged in, and how they end it from elsewhere. What tells a session from others is never shown, only its hash. */
@Service
class OwnSessions {
    private static final String FROM = "morvet.from";
    private static final int LONGEST = 200;

    /**
     * A log-in that holds.
     *
     * @param key  by which it is ended
     * @param age  how long ago it began, and {@code idle} when it was used last: sessions go by the clock of the machine, whatever
     *     Morvet's says
     * @param from the address and the browser, as it says of itself
     * @param here whether it is the one that asks
     */
    record LoggedIn(String key, Duration age, Duration idle, String from, boolean here) {}

    private final FindByIndexNameSessionRepository<? extends Session> sessions;

    OwnSessions(FindByIndexNameSessionRepository<? extends Session> sessions) {
        this.sessions = sessions;
    }

    /** Notes of a session that has just begun whose it is, and from where. */
    void begins(Person person, HttpSession session, String address, String browser) {
        var from = address + (browser.isBlank() ? "" : ", " + browser.replaceAll("\\p{Cntrl}", " "));
        session.setAttribute(FindByIndexNameSessionRepository.PRINCIPAL_NAME_INDEX_NAME, name(person));
        session.setAttribute(FROM, from.length() > LONGEST ? from.substring(0, LONGEST) + "…" : from);
    }

    private static String name(Person person) {
        return "person " + person.id();
    }

    /** The one that was used last first. */
    List<LoggedIn> of(Person person, String here) {
        var now = Instant.now();
        return found(person).values().stream()
                .filter(one -> !one.isExpired())
                .map(one -> new LoggedIn(
                        key(one.getId()),
                        Duration.between(one.getCreationTime(), now),
                        Duration.between(one.getLastAccessedTime(), now),
                        one.getAttributeOrDefault(FROM, ""),
                        one.getId().equals(here)))
                .sorted(Comparator.comparing(LoggedIn::idle))
                .toList();
    }

    /** Ends one of them; nothing where there is none of that key, or it is another's. */
    void end(Person person, String key) {
        found(person).keySet().stream().filter(id -> key(id).equals(key)).forEach(sessions::deleteById);
    }

    /** Ends all but the one that asks. */
    void endOthers(Person person, String here) {
        found(person).keySet().stream().filter(id -> !id.equals(here)).forEach(sessions::deleteById);
    }

    private Map<String, ? extends Session> found(Person person) {
        return sessions.findByPrincipalName(name(person));
    }

    private static String key(String id) {
        try {
            var hash = MessageDigest.getInstance("SHA-256").digest(id.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(hash, 0, 12);
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
