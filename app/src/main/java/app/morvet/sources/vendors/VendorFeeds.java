package app.morvet.sources.vendors;

import app.morvet.core.vendors.FeedSettings;
import app.morvet.core.vendors.Reading;
import app.morvet.core.vendors.VendorState;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.connections.Ask;
import app.morvet.ground.connections.Calls;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.ConnectionSort;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.connections.Unanswered;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** The feeds of vendors, as connections: looked at every so often, each an errand of its own. */
@Component
public class VendorFeeds implements ConnectionSort, Errand {
    public static final String SORT = "vendor";
    /** The settings beside those of {@link FeedSettings}: of which component it tells, and how often it is looked at. */
    public static final String COMPONENT = "component";

    public static final String EVERY = "everySeconds";
    private static final String NAME = "vendor-feed";
    /** So many looks in a row may fail before what was known is known no more. */
    private static final int PATIENCE = 2;

    private static final int SHOWN = 8;

    private final Connections connections;
    private final Calls calls;
    private final Vendors vendors;
    private final Errands errands;
    private final Clock clock;

    VendorFeeds(Connections connections, Calls calls, Vendors vendors, Errands errands, Clock clock) {
        this.connections = connections;
        this.calls = calls;
        this.vendors = vendors;
        this.errands = errands;
        this.clock = clock;
    }

    @Override
    public String sort() {
        return SORT;
    }

    @Override
    public String name() {
        return NAME;
    }

    public static Duration every(Connection one) {
        var seconds = one.get(EVERY);
        return Duration.ofSeconds(seconds.matches("\\d{1,6}") ? Math.clamp(Long.parseLong(seconds), 10, 86_400) : 60);
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        lookAgain();
    }

    /** All are looked at soon; to be asked when one is new or another than before. */
    public void lookAgain() {
        for (var one : connections.of(SORT)) errands.unlessWaiting(clock.instant(), NAME, "" + one.id());
    }

    @Override
    public Optional<Instant> run(String id) {
        var one = connections.byId(Long.parseLong(id)).orElse(null);
        if (one == null || !one.sort().equals(SORT)) return Optional.empty();
        try {
            look(one);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
        return Optional.of(clock.instant().plus(every(one)));
    }

    private void look(Connection one) throws InterruptedException {
        var at = clock.instant();
        long began = System.nanoTime();
        Reading read = null;
        List<String> faults;
        try {
            var body = calls.ask(one, trial(one));
            read = FeedSettings.of(one.settings()).read(body, at);
            faults = read.faults();
            // An answer that is of another shape altogether is as good as none.
            if (read.states().isEmpty() && read.bulletins().isEmpty() && !faults.isEmpty()) read = null;
        } catch (Unanswered none) {
            faults = List.of(none.words());
        } catch (IllegalArgumentException wrong) {
            faults = List.of(String.valueOf(wrong.getMessage()));
        }
        boolean unknown = read == null && failedBefore(one);
        vendors.took(one, read, faults, unknown, at, Duration.ofNanos(System.nanoTime() - began), every(one));
    }

    private boolean failedBefore(Connection one) {
        var last = vendors.polls(one.id(), PATIENCE - 1);
        return last.size() == PATIENCE - 1
                && last.stream().noneMatch(poll -> poll.faults().isEmpty());
    }

    @Override
    public Ask trial(Connection connection) {
        return Ask.read("feed looked at", "");
    }

    @Override
    public String reads(Connection connection, String answer) {
        var read = FeedSettings.of(connection.settings()).read(answer, clock.instant());
        var words = new StringBuilder();
        read.states().entrySet().stream()
                .sorted(java.util.Map.Entry.comparingByKey())
                .limit(SHOWN)
                .forEach(one -> words.append(one.getKey().isEmpty() ? "the whole" : one.getKey())
                        .append(' ')
                        .append(one.getValue().words())
                        .append("; "));
        if (read.states().isEmpty()) words.append(VendorState.UNKNOWN.words()).append("; ");
        words.append(
                read.bulletins().size() == 1 ? "1 bulletin" : read.bulletins().size() + " bulletins");
        if (!read.faults().isEmpty()) words.append(". ").append(String.join(" ", read.faults()));
        return words.toString();
    }
}
