package app.morvet.ground.access;

import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;

/**
 * Sessions of which it is put down once a minute that they are in use. Each part of an open page that fetches itself anew uses its session,
 * and would write to the store each time, for a session that ends after hours.
 */
final class SessionsInUse<S extends Session> implements FindByIndexNameSessionRepository<SessionsInUse.InUse<S>> {
    static final Duration PUT_DOWN_EVERY = Duration.ofMinutes(1);

    private final FindByIndexNameSessionRepository<S> kept;

    SessionsInUse(FindByIndexNameSessionRepository<S> kept) {
        this.kept = kept;
    }

    @Override
    public InUse<S> createSession() {
        return new InUse<>(kept.createSession());
    }

    @Override
    public void save(InUse<S> session) {
        kept.save(session.kept());
    }

    @Override
    public @Nullable InUse<S> findById(String id) {
        var found = kept.findById(id);
        return found == null ? null : new InUse<>(found);
    }

    @Override
    public void deleteById(String id) {
        kept.deleteById(id);
    }

    @Override
    public Map<String, InUse<S>> findByIndexNameAndIndexValue(String index, String value) {
        return kept.findByIndexNameAndIndexValue(index, value).entrySet().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, one -> new InUse<>(one.getValue())));
    }

    /** All as it is kept, but for the time of its last use. */
    record InUse<S extends Session>(S kept) implements Session {
        @Override
        public void setLastAccessedTime(Instant at) {
            var before = kept.getLastAccessedTime();
            if (Duration.between(before, at).compareTo(PUT_DOWN_EVERY) >= 0) kept.setLastAccessedTime(at);
        }

        @Override
        public Instant getLastAccessedTime() {
            return kept.getLastAccessedTime();
        }

        @Override
        public String getId() {
            return kept.getId();
        }

        @Override
        public String changeSessionId() {
            return kept.changeSessionId();
        }

        @Override
        public <T> @Nullable T getAttribute(String name) {
            return kept.getAttribute(name);
        }

        @Override
        public Set<String> getAttributeNames() {
            return kept.getAttributeNames();
        }

        @Override
        public void setAttribute(String name, @Nullable Object value) {
            kept.setAttribute(name, value);
        }

        @Override
        public void removeAttribute(String name) {
            kept.removeAttribute(name);
        }

        @Override
        public Instant getCreationTime() {
            return kept.getCreationTime();
        }

        @Override
        public void setMaxInactiveInterval(Duration longest) {
            kept.setMaxInactiveInterval(longest);
        }

        @Override
        public Duration getMaxInactiveInterval() {
            return kept.getMaxInactiveInterval();
        }

        @Override
        public boolean isExpired() {
            return kept.isExpired();
        }
    }
}
