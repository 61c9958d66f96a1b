package app.morvet.outpost;

import app.morvet.probe.Run;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Carries out what people ask for, as far as the file here names it. The number of an order is on disk before it is begun: it
 * is never begun a second time, and one whose end is not on disk when the program begins anew is told as not known.
 */
final class Orders {
    private static final int LONGEST_WORDS = 2000;

    private final OwnFile own;
    private final Path ledger;
    private final Clock clock;
    private final Consumer<ObjectNode> tell;
    private final Set<Long> begun = new HashSet<>();
    private final Map<String, Deque<Instant>> carriedOut = new HashMap<>();

    /** @param tell where what becomes of an order is put, to be told once */
    Orders(OwnFile own, Path folder, Clock clock, Consumer<ObjectNode> tell) {
        this.own = own;
        this.ledger = folder.resolve("orders");
        this.clock = clock;
        this.tell = tell;
        recall();
    }

    /** The ledger has a line {@code begun 17} and a line {@code ended 17} for each. */
    private void recall() {
        if (!Files.exists(ledger)) return;
        var open = new ArrayList<Long>();
        try {
            for (var line : Files.readAllLines(ledger)) {
                if (!line.matches("(begun|ended) \\d{1,18}")) continue;
                long id = Long.parseLong(line.substring(6));
                if (line.startsWith("begun")) {
                    begun.add(id);
                    open.add(id);
                } else open.remove(id);
            }
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
        for (var id : open) {
            tell(
                    id,
                    "UNKNOWN",
                    "The outpost ended while it was carried out; look whether it was done before you ask again.");
            write("ended", id);
        }
    }

    private void write(String what, long id) {
        try {
            Files.writeString(
                    ledger,
                    what + " " + id + "\n",
                    StandardOpenOption.CREATE,
                    StandardOpenOption.APPEND,
                    StandardOpenOption.SYNC);
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    private void tell(long id, String state, String words) {
        tell.accept(Wire.JSON
                .createObjectNode()
                .put("id", id)
                .put("at", clock.instant().toString())
                .put("state", state)
                .put("words", words.length() > LONGEST_WORDS ? words.substring(0, LONGEST_WORDS) + "…" : words));
    }

    /** Takes an order that was fetched; one that is known already is left alone. */
    void take(JsonNode order) {
        long id = order.path("id").asLong(0);
        synchronized (this) {
            if (id <= 0 || !begun.add(id)) return;
        }
        if (order.path("secondsLeft").asLong(0) <= 0) {
            write("begun", id);
            write("ended", id);
            return;
        }
        var name = order.path("action").asString("");
        List<String> words;
        OwnFile.Action action;
        try {
            action = allowed(name, order.path("right").asString(""));
            var arguments = new HashMap<String, String>();
            order.path("arguments")
                    .properties()
                    .forEach(one -> arguments.put(one.getKey(), one.getValue().asString()));
            words = action.command().words(arguments);
        } catch (IllegalArgumentException refused) {
            write("begun", id);
            tell(id, "REFUSED", String.valueOf(refused.getMessage()));
            write("ended", id);
            return;
        }
        write("begun", id);
        tell(id, "FETCHED", "");
        Thread.ofVirtual()
                .name("order-" + id)
                .start(() -> carryOut(id, words, action.command().longest()));
    }

    private synchronized OwnFile.Action allowed(String name, String right) {
        var action = own.actions().get(name);
        if (action == null)
            throw new IllegalArgumentException(
                    "the file of the outpost %s names no action \"%s\"".formatted(own.name(), name));
        var ranks = List.of("analyst", "lead", "admin");
        if (ranks.indexOf(right) < ranks.indexOf(action.right()))
            throw new IllegalArgumentException(
                    "who asks for \"%s\" must be %s at least".formatted(name, action.right()));
        var times = carriedOut.computeIfAbsent(name, none -> new ArrayDeque<>());
        var now = clock.instant();
        while (!times.isEmpty() && times.peekFirst().plus(action.within()).isBefore(now)) times.removeFirst();
        if (times.size() >= action.atMost())
            throw new IllegalArgumentException("\"%s\" is done %d times in %s at most"
                    .formatted(name, action.atMost(), app.morvet.core.guard.Spans.words(action.within())));
        times.addLast(now);
        return action;
    }

    private void carryOut(long id, List<String> words, Duration longest) {
        try {
            var run = Run.of(words, longest);
            var output = run.output().strip();
            if (run.ended()) tell(id, "FAILED", "It did not end within its time, and was ended. " + output);
            else if (run.code() != 0) tell(id, "FAILED", "It ended with %d. %s".formatted(run.code(), output));
            else tell(id, "DONE", output);
        } catch (IOException none) {
            tell(id, "FAILED", "It could not be begun: " + none.getMessage());
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
            return;
        }
        write("ended", id);
    }
}
