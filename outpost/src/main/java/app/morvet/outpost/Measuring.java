package app.morvet.outpost;

import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Measures what the brief asks for, each line when it is due. */
final class Measuring {
    private record Line(String what, String of, Duration every) {}

    private final Host host;
    private final Others others;
    private final Clock clock;
    private final Consumer<ObjectNode> tell;
    private final Map<Line, Instant> due = new HashMap<>();
    private final Map<String, String> faults = new ConcurrentHashMap<>();
    private volatile List<Line> lines = List.of();

    /** @param tell where what was measured at one instant is put, to be told once */
    Measuring(Host host, Others others, Clock clock, Consumer<ObjectNode> tell) {
        this.host = host;
        this.others = others;
        this.clock = clock;
        this.tell = tell;
    }

    void take(JsonNode list) {
        var fresh = new ArrayList<Line>();
        for (var one : list)
            fresh.add(new Line(
                    one.path("what").asString(""),
                    one.path("of").asString(""),
                    Duration.ofSeconds(Math.max(5, one.path("everySeconds").asLong(60)))));
        synchronized (due) {
            due.keySet().retainAll(fresh);
            fresh.forEach(one -> due.putIfAbsent(one, clock.instant()));
        }
        faults.keySet().retainAll(fresh.stream().map(Line::what).toList());
        lines = fresh;
    }

    void again() {
        synchronized (due) {
            due.replaceAll((line, at) -> clock.instant());
        }
    }

    /** What could not be measured when it was tried last, and why. */
    List<String> faults() {
        return new TreeMap<>(faults)
                .entrySet().stream()
                        .map(one -> one.getKey() + ": " + one.getValue())
                        .toList();
    }

    void round() {
        var now = clock.instant();
        for (var line : lines) {
            synchronized (due) {
                var at = due.getOrDefault(line, now);
                if (at.isAfter(now)) continue;
                var next = at.plus(line.every());
                due.put(line, next.isBefore(now) ? now.plus(line.every().dividedBy(2)) : next);
            }
            Thread.ofVirtual().name("measure").start(() -> measure(line));
        }
    }

    private void measure(Line line) {
        try {
            var part = line.what().split(" ", 2);
            switch (part[0]) {
                case "page" -> {
                    var text = others.page(part[1]);
                    tell.accept(Wire.JSON
                            .createObjectNode()
                            .put("at", clock.instant().toString())
                            .put("page", text));
                }
                case "bean" -> {
                    var words = part[1].split(" ", 3);
                    tell(others.beans(words[0], words[1], words[2]));
                }
                case "counter" -> tell(others.counter(part[1]));
                default -> tell(host.measure(line.what(), line.of()));
            }
            faults.remove(line.what());
        } catch (IOException | RuntimeException cannot) {
            faults.put(line.what(), String.valueOf(cannot.getMessage()));
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }

    private void tell(List<Host.Measured> measured) {
        var now = clock.instant().toString();
        var item = Wire.JSON.createObjectNode().put("at", now);
        var readings = item.putArray("readings");
        for (var one : measured) {
            var reading = readings.addObject()
                    .put("measure", one.measure())
                    .put("sort", one.sort())
                    .put("unit", one.unit())
                    .put("value", one.value())
                    .put("at", now);
            reading.set("labels", Wire.JSON.valueToTree(one.labels()));
        }
        if (!readings.isEmpty()) tell.accept(item);
    }
}
