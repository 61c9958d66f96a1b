package app.morvet.outpost;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/** {@code java -jar outpost.jar --file outpost.yaml}, or with {@code --morvet URL --name NAME --key KEY}. */
public final class Main {
    private static final String USAGE =
            """
            usage: java -jar outpost.jar --file outpost.yaml
                   java -jar outpost.jar --morvet URL --name NAME (--key KEY | --key-file FILE) [--spool FOLDER]
            """;

    private Main() {}

    public static void main(String[] words) throws InterruptedException {
        System.setProperty("java.util.logging.SimpleFormatter.format", "%1$tF %1$tT %4$s %5$s%6$s%n");
        try {
            var given = new HashMap<String, String>();
            for (int i = 0; i < words.length; i += 2) {
                if (!words[i].matches("--(file|morvet|name|key|key-file|spool|clock-offset)") || i + 1 == words.length)
                    throw new IllegalArgumentException(
                            "\"" + words[i] + "\" is not known, or nothing stands behind it");
                given.put(words[i].substring(2), words[i + 1]);
            }
            var outpost = new Outpost(read(given), clock(given));
            Runtime.getRuntime().addShutdownHook(new Thread(outpost::stop));
            outpost.run();
        } catch (IllegalArgumentException | IOException wrong) {
            System.err.println("outpost: " + wrong.getMessage());
            System.err.print(USAGE);
            System.exit(2);
        }
    }

    static OwnFile read(Map<String, String> given) throws IOException {
        var over = new HashMap<String, String>();
        for (var name : new String[] {"morvet", "name", "key", "spool"})
            if (given.containsKey(name)) over.put(name, given.get(name));
        if (given.containsKey("key-file")) over.put("keyFile", given.get("key-file"));
        var file = given.get("file");
        return OwnFile.read(file == null ? null : Path.of(file), over);
    }

    /** For a demo that stands at another time. */
    private static Clock clock(Map<String, String> given) {
        var ahead = given.getOrDefault("clock-offset", "");
        return ahead.isEmpty()
                ? Clock.systemUTC()
                : Clock.offset(Clock.systemUTC(), Duration.parse("PT" + ahead.toUpperCase(Locale.ROOT)));
    }
}
