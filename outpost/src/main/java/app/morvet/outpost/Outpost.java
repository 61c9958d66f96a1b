package app.morvet.outpost;

import app.morvet.probe.Prober;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.logging.Level;
import java.util.logging.Logger;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * One outpost at work: it looks and measures by itself, whether Morvet is there or not, and every two seconds it tells what it
 * has seen. What Morvet answers says how far that was taken, whether there is another brief, and what is asked of it at once.
 */
final class Outpost {
    static final String PROGRAM = "1";
    private static final Logger log = Logger.getLogger(Outpost.class.getName());
    private static final Duration BETWEEN_WORDS = Duration.ofSeconds(2);
    private static final Duration WHILE_AWAY = Duration.ofSeconds(5);
    private static final Duration BETWEEN_ROUNDS = Duration.ofMillis(250);
    private static final int CHARACTERS_A_WORD = 1024 * 1024;
    private static final int TOP = 20;
    private static final Duration OFFERS_EVERY = Duration.ofMinutes(5);

    private final OwnFile own;
    private final Clock clock;
    private final Spool spool;
    private final Wire wire;
    private final Host host = new Host();
    private final Measuring measuring;
    private final Looks looks;
    private final Orders orders;
    private final Alarm alarm;
    private final KeptBrief kept;
    private volatile String brief = "";
    private volatile List<String> briefFaults = List.of();
    private volatile boolean processesWanted;
    private List<String> offers = List.of();
    private Instant offersAt = Instant.EPOCH;
    private volatile boolean over;
    private boolean silent;

    Outpost(OwnFile own, Clock clock) {
        this.own = own;
        this.clock = clock;
        this.spool = new Spool(own.spool(), own.spoolBytes());
        this.wire = new Wire(own);
        var allowed = new Allowed(own);
        this.measuring = new Measuring(host, new Others(allowed), clock, this::keep);
        this.looks = new Looks(Prober.ofHost(allowed, host), own.spool(), clock, told -> keep("checks", told));
        this.orders = new Orders(own, own.spool(), clock, told -> keep("orders", told));
        this.alarm = new Alarm(own, own.spool(), clock);
        this.kept = new KeptBrief(own.spool());
        kept.read().ifPresent(this::take);
    }

    private void keep(String part, ObjectNode told) {
        var item = Wire.JSON.createObjectNode();
        item.set(part, told);
        keep(item);
    }

    private void keep(ObjectNode item) {
        try {
            spool.put(item.toString());
        } catch (UncheckedIOException full) {
            log.log(Level.SEVERE, "what was seen could not be kept", full);
        }
    }

    /** Works until it is told to stop. */
    void run() throws InterruptedException {
        var looking = Thread.ofPlatform().name("looking").daemon().start(this::look);
        while (!over) {
            boolean more = false;
            try {
                more = word();
            } catch (RuntimeException failed) {
                // Whatever it is, who watches goes on watching.
                log.log(Level.SEVERE, "it could not tell what it has seen", failed);
            }
            if (!more) Thread.sleep(silent ? WHILE_AWAY : BETWEEN_WORDS);
        }
        looking.interrupt();
    }

    void stop() {
        over = true;
    }

    private void look() {
        try {
            while (!over) {
                try {
                    lookOnce();
                } catch (RuntimeException failed) {
                    log.log(Level.SEVERE, "a round failed", failed);
                }
                Thread.sleep(BETWEEN_ROUNDS);
            }
        } catch (InterruptedException stop) {
            // it is over
        }
    }

    /** Begins what is due. */
    void lookOnce() {
        measuring.round();
        looks.round();
    }

    long waiting() {
        return spool.waiting();
    }

    /** Tells once; gives back whether more waits to be told at once. */
    boolean word() throws InterruptedException {
        try {
            var some = spool.oldest(CHARACTERS_A_WORD);
            var answer = wire.tell(word(some));
            alarm.answered();
            if (silent) log.info("Morvet answers again");
            silent = false;
            spool.taken(answer.path("takenTo").asLong(0));
            heed(answer);
            return !some.isEmpty()
                    && spool.waiting() > 0
                    && spool.oldest(1).getFirst().number() > some.getFirst().number();
        } catch (IOException away) {
            if (!silent) log.warning("Morvet does not answer; what is seen is kept meanwhile: " + away.getMessage());
            silent = true;
            alarm.silent(String.valueOf(away.getMessage()));
            return false;
        }
    }

    private ObjectNode word(List<Spool.Kept> some) {
        var now = clock.instant();
        if (offersAt.plus(OFFERS_EVERY).isBefore(now)) {
            offers = host.offers();
            offersAt = now;
        }
        var faults = new ArrayList<>(briefFaults);
        faults.addAll(measuring.faults());
        var word = Wire.JSON
                .createObjectNode()
                .put("program", PROGRAM)
                .put("at", now.toString())
                .put("host", host.name())
                .put("system", host.system())
                .put("brief", brief)
                .put("waiting", spool.waiting() - some.size())
                .put("dropped", spool.dropped())
                .put("spool", spool.id());
        word.set("offers", Wire.JSON.valueToTree(offers));
        word.set("faults", Wire.JSON.valueToTree(faults));
        var may = word.putObject("may");
        may.set("lines", Wire.JSON.valueToTree(own.allows()));
        var actions = may.putArray("actions");
        own.actions().forEach((name, one) -> {
            var action =
                    actions.addObject().put("name", name).put("of", one.of()).put("right", one.right());
            action.set("arguments", Wire.JSON.valueToTree(one.command().arguments()));
        });
        var items = word.putArray("items");
        for (var one : some) items.add(item(one.line()).put("n", one.number()));
        var told = word.putObject("told");
        if (processesWanted) processes(told.putArray("processes").addObject());
        told.putArray("tries").addAll(looks.outcomes());
        return word;
    }

    /** What was kept; where it cannot be read any more, as after a full disk, its number alone, so that it holds nothing up. */
    private static ObjectNode item(String line) {
        try {
            if (Wire.JSON.readTree(line) instanceof ObjectNode item) return item;
        } catch (JacksonException broken) {
            log.warning("something that was seen cannot be read any more: " + line);
        }
        return Wire.JSON.createObjectNode();
    }

    private void processes(ObjectNode told) {
        // The machine's own clock says since when a process runs.
        var ahead = Duration.between(Instant.now(), clock.instant());
        var list = told.put("at", clock.instant().toString()).putArray("all");
        for (var one : host.top(TOP))
            list.addObject()
                    .put("id", one.id())
                    .put("name", one.name())
                    .put(
                            "line",
                            one.commandLine().length() > 300 ? one.commandLine().substring(0, 300) : one.commandLine())
                    .put("processor", one.processor())
                    .put("memory", one.memory())
                    .put("since", one.since().plus(ahead).toString());
    }

    private void heed(JsonNode answer) throws IOException, InterruptedException {
        for (var refused : answer.path("refused")) log.warning("Morvet refuses: " + refused.asString(""));
        processesWanted = !answer.path("processes").isEmpty();
        if (!answer.path("brief").asString("").equals(brief))
            wire.brief().ifPresent(fresh -> {
                kept.write(fresh);
                take(fresh);
            });
        if (answer.path("lookAgain").asBoolean(false)) {
            measuring.again();
            looks.again();
        }
        for (var order : answer.path("orders")) orders.take(order);
        for (var one : answer.path("tries")) looks.tryOnce(one);
    }

    private void take(JsonNode fresh) {
        measuring.take(fresh.path("measures"));
        briefFaults = looks.take(fresh.path("checks"));
        brief = fresh.path("version").asString("");
        log.info("the brief " + brief + " is in force");
    }
}
