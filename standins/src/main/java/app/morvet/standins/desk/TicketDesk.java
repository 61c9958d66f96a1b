package app.morvet.standins.desk;

import app.morvet.standins.Keep;
import app.morvet.standins.StandInSettings;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** The tickets, and the call-back to whoever asked for one. */
@Component
class TicketDesk {
    private static final int FIRST = 4101;

    record Drawer(List<Ticket> tickets) {}

    private final Keep keep;
    private final Clock clock;
    private final StandInSettings settings;
    private final List<Ticket> tickets;
    private final HttpClient client =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(3)).build();
    private volatile boolean down;

    TicketDesk(Keep keep, Clock clock, StandInSettings settings) {
        this.keep = keep;
        this.clock = clock;
        this.settings = settings;
        this.tickets = new ArrayList<>(
                keep.read("desk.json", Drawer.class).map(Drawer::tickets).orElse(List.of()));
    }

    boolean down() {
        return down;
    }

    void setDown(boolean down) {
        this.down = down;
    }

    /** Opens a ticket, or gives back the one that was opened with the same key. */
    synchronized Ticket open(String key, Map<String, Object> asked) {
        var known = tickets.stream()
                .filter(one -> !key.isEmpty() && one.key().equals(key))
                .findFirst();
        if (known.isPresent()) return known.get();
        var ticket = new Ticket(
                "SD-" + next(),
                key,
                text(asked, "summary"),
                text(asked, "description"),
                text(asked, "group"),
                text(asked, "caller"),
                text(asked, "link"),
                text(asked, "callback"),
                list(asked.get("evidence")),
                list(asked.get("attachments")),
                "open",
                "",
                clock.instant());
        tickets.add(ticket);
        save();
        return ticket;
    }

    private int next() {
        return tickets.stream()
                .mapToInt(one -> Integer.parseInt(one.number().substring("SD-".length())) + 1)
                .reduce(FIRST, Math::max);
    }

    /** Tickets of a past that is told: they are there as if they had been opened and worked on then. */
    synchronized void recall(List<Ticket> past) {
        for (var one : past) if (find(one.number()).isEmpty()) tickets.add(one);
        save();
    }

    private static String text(Map<String, Object> asked, String name) {
        var value = asked.get(name);
        return value == null ? "" : value.toString();
    }

    @SuppressWarnings("unchecked")
    private static List<Map<String, Object>> list(@org.jspecify.annotations.Nullable Object value) {
        return value instanceof List<?> list
                ? list.stream()
                        .filter(Map.class::isInstance)
                        .map(one -> (Map<String, Object>) one)
                        .toList()
                : List.of();
    }

    synchronized Optional<Ticket> find(String number) {
        return tickets.stream().filter(one -> one.number().equals(number)).findFirst();
    }

    synchronized List<Ticket> all() {
        return List.copyOf(tickets).reversed();
    }

    synchronized void change(String number, String state, String reason) {
        tickets.replaceAll(one -> one.number().equals(number) ? one.in(state, reason) : one);
        save();
        find(number).ifPresent(this::callBack);
    }

    private void save() {
        keep.write("desk.json", new Drawer(List.copyOf(tickets)));
    }

    /** Tried once; whoever is not reached looks by itself. */
    private void callBack(Ticket ticket) {
        if (ticket.callback().isEmpty()) return;
        var request = HttpRequest.newBuilder(URI.create(ticket.callback()))
                .timeout(Duration.ofSeconds(5))
                .header("Authorization", "Bearer " + settings.deskSecret())
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString("{\"ticket\":{\"number\":\"" + ticket.number() + "\"}}"))
                .build();
        client.sendAsync(request, HttpResponse.BodyHandlers.discarding());
    }
}
