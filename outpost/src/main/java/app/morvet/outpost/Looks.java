package app.morvet.outpost;

import app.morvet.core.checks.Cadence;
import app.morvet.core.checks.Look;
import app.morvet.core.checks.Result;
import app.morvet.probe.Around;
import app.morvet.probe.Prober;
import app.morvet.probe.Told;
import app.morvet.probe.Turns;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Makes the checks of the brief when they are due, each on a thread of its own. */
final class Looks {
    /** @param key of the check and how it was changed last: what is remembered is remembered of that alone */
    private record Check(long id, int version, Cadence every, int tries, Look look, String headers, String logIn) {
        String key() {
            return id + "-" + version;
        }
    }

    private final Turns turns;
    private final Path memories;
    private final Clock clock;
    private final Consumer<ObjectNode> tell;
    private final Map<Long, Instant> due = new HashMap<>();
    private final Set<Long> tried = ConcurrentHashMap.newKeySet();
    private final Queue<ObjectNode> outcomes = new ConcurrentLinkedQueue<>();
    private final Set<Long> running = ConcurrentHashMap.newKeySet();
    private volatile List<Check> checks = List.of();

    Looks(Prober prober, Path folder, Clock clock, Consumer<ObjectNode> tell) {
        this.turns = new Turns(prober);
        this.memories = folder.resolve("memories");
        this.clock = clock;
        this.tell = tell;
        try {
            Files.createDirectories(memories);
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    /** Takes those of a new brief; gives back what cannot be made of it. */
    List<String> take(JsonNode list) {
        var faults = new ArrayList<String>();
        var fresh = new ArrayList<Check>();
        var keys = new HashMap<Long, String>();
        checks.forEach(one -> keys.put(one.id(), one.key()));
        for (var one : list) {
            try {
                fresh.add(new Check(
                        one.path("id").asLong(),
                        one.path("version").asInt(),
                        cadence(one),
                        one.path("tries").asInt(1),
                        Look.of(one.path("kind").asString(), fields(one)),
                        one.path("headers").asString(""),
                        one.path("logIn").asString("")));
            } catch (IllegalArgumentException unknown) {
                faults.add("the check %s: %s".formatted(one.path("name").asString(""), unknown.getMessage()));
            }
        }
        synchronized (due) {
            due.keySet().retainAll(fresh.stream().map(Check::id).toList());
            for (var one : fresh)
                if (!one.key().equals(keys.get(one.id()))) {
                    var now = clock.instant();
                    due.put(
                            one.id(),
                            one.every().cron().isEmpty() ? now : one.every().next(now, now));
                }
        }
        checks = fresh;
        forgetOthers(fresh);
        return faults;
    }

    private static Cadence cadence(JsonNode one) {
        var every = Duration.ofSeconds(Math.max(5, one.path("everySeconds").asLong(60)));
        return Cadence.stored(
                every, one.path("cron").asString(""), ZoneId.of(one.path("zone").asString("UTC")));
    }

    private void forgetOthers(List<Check> fresh) {
        var keys = fresh.stream().map(Check::key).toList();
        try (var all = Files.list(memories)) {
            for (var file : all.toList())
                if (!keys.contains(String.valueOf(file.getFileName()))) Files.deleteIfExists(file);
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    /** Tries something once, for somebody who waits for it; what came of it is told with the next word. */
    void tryOnce(JsonNode one) {
        long id = one.path("id").asLong(0);
        if (!tried.add(id)) return;
        Thread.ofVirtual().name("try-" + id).start(() -> {
            try {
                var look = Look.of(one.path("kind").asString(), fields(one));
                var around = new Around(
                        one.path("headers").asString(""), one.path("logIn").asString(""), "", clock.instant());
                outcomes.add(told(id, clock.instant(), turns.ask(look.target(), around, 1)));
            } catch (IllegalArgumentException unknown) {
                outcomes.add(
                        told(id, clock.instant(), Result.none(Duration.ZERO, String.valueOf(unknown.getMessage()))));
            } catch (InterruptedException stop) {
                Thread.currentThread().interrupt();
            }
        });
    }

    /** What came of tries and was not told yet; once. */
    List<ObjectNode> outcomes() {
        var some = new ArrayList<ObjectNode>();
        for (var one = outcomes.poll(); one != null; one = outcomes.poll()) some.add(one);
        return some;
    }

    private static Map<String, String> fields(JsonNode one) {
        var fields = new HashMap<String, String>();
        one.path("fields")
                .properties()
                .forEach(it -> fields.put(it.getKey(), it.getValue().asString()));
        return fields;
    }

    /** All of them, at once. */
    void again() {
        synchronized (due) {
            due.replaceAll((id, at) -> clock.instant());
        }
    }

    /** Begins what is due. One that still runs is not begun again. */
    void round() {
        var now = clock.instant();
        for (var check : checks) {
            synchronized (due) {
                var at = due.getOrDefault(check.id(), now);
                if (at.isAfter(now)) continue;
                due.put(check.id(), check.every().next(at, now));
            }
            if (running.add(check.id()))
                Thread.ofVirtual().name("check-" + check.id()).start(() -> run(check));
        }
    }

    private void run(Check check) {
        try {
            var at = clock.instant();
            var memory = memory(check);
            var around = new Around(check.headers(), check.logIn(), memory, at);
            var result = turns.ask(check.look().target(), around, check.tries());
            if (checks.contains(check)) {
                // First it is told, then remembered: what is lost between the two is looked at again.
                tell.accept(told(check.id(), at, result).put("version", check.version()));
                if (!result.memory().equals(memory)) remember(check, result.memory());
            }
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        } finally {
            running.remove(check.id());
        }
    }

    private String memory(Check check) {
        try {
            var file = memories.resolve(check.key());
            return Files.exists(file) ? Files.readString(file) : "";
        } catch (IOException broken) {
            return "";
        }
    }

    private void remember(Check check, String memory) {
        try {
            var fresh = memories.resolve(check.key() + ".new");
            Files.writeString(fresh, memory);
            Files.move(
                    fresh,
                    memories.resolve(check.key()),
                    StandardCopyOption.ATOMIC_MOVE,
                    StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    private static ObjectNode told(long id, Instant at, Result result) {
        return Wire.JSON.<ObjectNode>valueToTree(Told.of(result)).put("id", id).put("at", at.toString());
    }
}
