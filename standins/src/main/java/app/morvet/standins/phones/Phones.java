package app.morvet.standins.phones;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Takes text messages, each key once; can be slow, be out of order, refuse, or take them and lose the answer. */
@Component
class Phones {
    private static final int MOST = 500;

    /** How it is with the gateway. */
    enum Mood {
        WELL,
        SLOW,
        DOWN,
        REFUSES,
        LOSES_ANSWERS
    }

    record Message(long number, Instant at, String to, String text) {}

    private final Clock clock;
    private final Deque<Message> messages = new ArrayDeque<>();
    private final Set<String> keys = new HashSet<>();
    private Mood mood = Mood.WELL;
    private long number;

    Phones(Clock clock) {
        this.clock = clock;
    }

    synchronized Mood mood() {
        return mood;
    }

    synchronized void mood(Mood next) {
        mood = next;
    }

    /** @return its number; 0 where the key was taken before */
    synchronized long take(String to, String text, String key) {
        if (!key.isEmpty() && !keys.add(key)) return 0;
        messages.addFirst(new Message(++number, clock.instant(), to, text));
        while (messages.size() > MOST) messages.removeLast();
        return number;
    }

    /** The latest first. */
    synchronized List<Message> messages() {
        return List.copyOf(messages);
    }
}
