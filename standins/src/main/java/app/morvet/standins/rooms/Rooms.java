package app.morvet.standins.rooms;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Lines in a room of a chat, and items of a paging service, which are changed by their id. */
@Component
class Rooms {
    private static final int MOST = 500;

    record Line(Instant at, String room, String text) {}

    /**
     * @param signed   whether the call bore a signature
     * @param answered what came of it when somebody took it here; empty while nobody has
     */
    record Item(String id, Instant at, String state, String summary, String link, boolean signed, String answered) {}

    private final Clock clock;
    private final List<Line> lines = new ArrayList<>();
    private final Map<String, Item> items = new LinkedHashMap<>();
    private boolean down;

    Rooms(Clock clock) {
        this.clock = clock;
    }

    synchronized boolean down() {
        return down;
    }

    synchronized void down(boolean wanted) {
        down = wanted;
    }

    synchronized void say(String room, String text) {
        lines.addFirst(new Line(clock.instant(), room, text));
        while (lines.size() > MOST) lines.removeLast();
    }

    synchronized List<Line> lines() {
        return List.copyOf(lines);
    }

    synchronized Item add(String state, String summary, String link, boolean signed) {
        var item = new Item("p-" + (items.size() + 1), clock.instant(), state, summary, link, signed, "");
        items.put(item.id(), item);
        return item;
    }

    /** @return null where there is none of that id */
    synchronized @Nullable Item change(String id, String state, String summary) {
        return items.computeIfPresent(
                id,
                (it, was) -> new Item(id, clock.instant(), state, summary, was.link(), was.signed(), was.answered()));
    }

    synchronized void answered(String id, String words) {
        items.computeIfPresent(
                id, (it, was) -> new Item(id, was.at(), was.state(), was.summary(), was.link(), was.signed(), words));
    }

    /** The latest first. */
    synchronized List<Item> items() {
        return new ArrayList<>(items.values()).reversed();
    }
}
