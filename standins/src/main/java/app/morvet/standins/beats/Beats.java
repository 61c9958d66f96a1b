package app.morvet.standins.beats;

import app.morvet.standins.StandInSettings;
import app.morvet.standins.ToMorvet;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;

/** Says of some parts of the estate that they are alive, each within its own cadence, unless it is stilled on the panel. */
@Component
class Beats implements SmartLifecycle {
    private static final Logger log = LoggerFactory.getLogger(Beats.class);
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(5);
    /** So many of the past are told at the start. */
    private static final int PAST = 8;

    /** What beats, and how often. */
    static final Map<String, Duration> ALL = new LinkedHashMap<>();

    static {
        ALL.put("ledger-backup", Duration.ofMinutes(5));
        ALL.put("roster-mirror", Duration.ofMinutes(2));
        ALL.put("gate-clock", Duration.ofMinutes(1));
    }

    private final ToMorvet morvet;
    private final StandInSettings settings;
    private final Clock clock;
    private final Set<String> still = ConcurrentHashMap.newKeySet();
    private final Map<String, Long> toldTo = new ConcurrentHashMap<>();
    private volatile boolean running;
    private Thread thread = new Thread();

    Beats(ToMorvet morvet, StandInSettings settings, Clock clock) {
        this.morvet = morvet;
        this.settings = settings;
        this.clock = clock;
    }

    boolean beats(String key) {
        return !still.contains(key);
    }

    void set(String key, boolean beats) {
        if (!ALL.containsKey(key)) throw new IllegalArgumentException("nothing beats as " + key);
        if (beats) still.remove(key);
        else still.add(key);
    }

    /** The beats that are due and not told yet. One that is stilled misses those of the meantime. */
    List<Map<String, Object>> due(Instant now) {
        var due = new ArrayList<Map<String, Object>>();
        ALL.forEach((key, every) -> {
            long number = now.getEpochSecond() / every.toSeconds();
            long from = toldTo.getOrDefault(key, number - PAST) + 1;
            for (long beat = beats(key) ? from : number + 1; beat <= number; beat++)
                due.add(ToMorvet.event(
                        "/beats/" + key,
                        key + "-" + beat,
                        "app.morvet.alive",
                        key,
                        Instant.ofEpochSecond(beat * every.toSeconds()),
                        Map.of(
                                "every",
                                every.toString(),
                                "leeway",
                                every.dividedBy(2).toString())));
        });
        return due;
    }

    private void told(Instant now) {
        ALL.forEach((key, every) -> toldTo.put(key, now.getEpochSecond() / every.toSeconds()));
    }

    private void beat() {
        while (running) {
            try {
                Thread.sleep(LOOKED_AT_EVERY);
                var now = clock.instant();
                var due = due(now);
                if (!due.isEmpty()) morvet.tell(due, settings.key());
                told(now);
            } catch (ToMorvet.NotTaken notYet) {
                log.debug("beats are told later: {}", notYet.getMessage());
            } catch (InterruptedException stop) {
                return;
            }
        }
    }

    @Override
    public void start() {
        running = true;
        thread = Thread.ofPlatform().name("beats").daemon().start(this::beat);
    }

    @Override
    public void stop() {
        running = false;
        thread.interrupt();
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
