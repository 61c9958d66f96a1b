package app.morvet.work.mending;

import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** What is sent again: the runs, and one with its progress and the outcome of each message. */
@Controller
class SendingsController {
    private static final int RUNS = 100;
    private static final int ITEMS = 60;

    /** A stretch of the bar that shows how far it is, from 0 to 1,000. */
    record Stretch(String kind, double x, double width) {}

    /** @param left how long the rest takes at this rate, in words; empty when it is over */
    record Row(
            long id,
            String made,
            String by,
            String about,
            int perMinute,
            String state,
            boolean running,
            boolean paused,
            SendingStore.Counts counts,
            List<Stretch> bar,
            String trouble,
            String left) {}

    record ItemRow(
            String message,
            String at,
            String interfaceName,
            String businessKey,
            String state,
            String mark,
            String words,
            String tried) {}

    private final SendingStore store;
    private final Sendings sendings;
    private final People people;
    private final Estate estate;
    private final app.morvet.sources.messages.Masks masks;
    private final Times times;

    SendingsController(
            SendingStore store,
            Sendings sendings,
            People people,
            Estate estate,
            app.morvet.sources.messages.Masks masks,
            Times times) {
        this.store = store;
        this.sendings = sendings;
        this.people = people;
        this.estate = estate;
        this.masks = masks;
        this.times = times;
    }

    @GetMapping("/messages/sendings")
    String list(@RequestHeader(name = "HX-Target", required = false) @Nullable String target, Model model) {
        model.addAttribute("runs", rows(store.latest(RUNS)));
        return "sending-rows".equals(target) ? "sending-parts :: runs" : "sendings";
    }

    @GetMapping("/messages/sendings/{id:\\d+}")
    String one(
            @PathVariable long id,
            @RequestParam(defaultValue = "0") int after,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        var run = store.byId(id)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no sending " + id + "."));
        fill(run, after, model);
        if ("more".equals(target)) return "sending-parts :: items";
        return "sending".equals(target) ? "sending-parts :: run" : "sending";
    }

    private void fill(SendingStore.Run run, int after, Model model) {
        model.addAttribute("run", rows(List.of(run)).getFirst());
        var items = store.items(run.id(), after, ITEMS + 1);
        model.addAttribute("items", items.stream().limit(ITEMS).map(this::item).toList());
        model.addAttribute("next", items.size() > ITEMS ? after + ITEMS : 0);
    }

    @PostMapping("/messages/sendings/{id:\\d+}/{act:pause|resume|stop}")
    String turn(@PathVariable long id, @PathVariable String act, @AuthenticationPrincipal Person by, Model model) {
        if (store.byId(id).isEmpty())
            throw new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no sending " + id + ".");
        sendings.turn(
                id,
                switch (act) {
                    case "pause" -> SendingStore.RunState.PAUSED;
                    case "resume" -> SendingStore.RunState.RUNNING;
                    default -> SendingStore.RunState.STOPPED;
                },
                by);
        fill(store.byId(id).orElseThrow(), 0, model);
        return "sending-parts :: run";
    }

    private List<Row> rows(List<SendingStore.Run> runs) {
        var counts = store.counts(runs.stream().map(SendingStore.Run::id).toList());
        var names = people.names();
        return runs.stream()
                .map(run -> row(run, counts.get(run.id()), names.getOrDefault(run.person(), "")))
                .toList();
    }

    private Row row(SendingStore.Run run, SendingStore.Counts counts, String by) {
        boolean running = run.state() == SendingStore.RunState.RUNNING;
        long minutes = Math.ceilDiv(counts.waiting(), run.perMinute());
        return new Row(
                run.id(),
                times.of(run.madeAt()),
                by,
                run.about(),
                run.perMinute(),
                run.state().words(),
                running,
                run.state() == SendingStore.RunState.PAUSED,
                counts,
                bar(counts),
                run.trouble(),
                running && counts.waiting() > 0
                        ? minutes <= 1 ? "less than a minute" : "about %,d min".formatted(minutes)
                        : "");
    }

    private static List<Stretch> bar(SendingStore.Counts counts) {
        var bar = new ArrayList<Stretch>();
        double x = 0;
        var parts = new long[] {
            counts.delivered(),
            counts.failed() + counts.refused(),
            counts.heldBack(),
            counts.notSent(),
            counts.waiting()
        };
        var kinds = List.of("delivered", "failed", "held", "left", "waiting");
        for (int i = 0; i < parts.length; i++) {
            double width = counts.all() == 0 ? 0 : 1000.0 * parts[i] / counts.all();
            if (width > 0) bar.add(new Stretch(kinds.get(i), x, width));
            x += width;
        }
        return bar;
    }

    private ItemRow item(SendingStore.Item item) {
        var masking = masks.on(item.component());
        var mark =
                switch (item.state()) {
                    case FAILED, REFUSED -> "warning";
                    case HELD_BACK -> "notice";
                    case WAITING, SENT, NOT_SENT -> "nodata";
                    case DELIVERED -> "steady";
                };
        return new ItemRow(
                item.message().toString(),
                times.of(item.message().at()),
                estate.component(item.component()).name(),
                masking.text(item.businessKey()).text(),
                item.state().words(),
                mark,
                masking.text(item.words()).text(),
                item.triedAt() == null ? "" : times.exact(item.triedAt()).substring(11));
    }
}
