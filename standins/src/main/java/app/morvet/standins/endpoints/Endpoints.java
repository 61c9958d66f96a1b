package app.morvet.standins.endpoints;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** What each endpoint does when it is asked. */
@Component
class Endpoints {
    /** How an endpoint may be. */
    enum Mood {
        WELL("it answers"),
        SLOW("it takes three seconds"),
        BROKEN("it answers 503"),
        SHUT("it says that it is shut"),
        HANGS("it does not answer");

        private final String words;

        Mood(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    private static final Map<String, String> NAMES = names();

    private final Map<String, Mood> moods = new ConcurrentHashMap<>();

    private static Map<String, String> names() {
        var names = new LinkedHashMap<String, String>();
        names.put("booking-site", "Booking site");
        names.put("fares-api", "Fares API");
        names.put("manifest-api", "Manifest API");
        names.put("payroll-gateway", "Payroll gateway");
        return names;
    }

    Map<String, String> all() {
        return NAMES;
    }

    Mood mood(String key) {
        if (!NAMES.containsKey(key)) throw new IllegalArgumentException("There is no endpoint " + key + ".");
        return moods.getOrDefault(key, Mood.WELL);
    }

    void set(String key, Mood mood) {
        mood(key);
        moods.put(key, mood);
    }

    /** What it says; a page for people, or JSON. */
    String body(String key) {
        boolean open = mood(key) != Mood.SHUT;
        if (key.equals("booking-site"))
            return "<html><body><h1>%s</h1></body></html>"
                    .formatted(open ? "Timetable and tickets" : "We are back at noon");
        return "{\"name\":\"%s\",\"status\":\"%s\",\"waiting\":%d}"
                .formatted(NAMES.get(key), open ? "open" : "shut", open ? 3 : 90);
    }
}
