package app.morvet.demo;

import app.morvet.core.checks.Look;
import app.morvet.core.outposts.Ask;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.checks.Checks;
import app.morvet.sources.outposts.Outposts;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** The one outpost of the demo, which is real: it measures this machine, and watches what the demo is made of. */
@Component
@Profile("demo")
class DemoOutposts {
    static final String NAME = "lookout-1";
    private static final Duration MINUTE = Duration.ofMinutes(1);

    private final Outposts outposts;
    private final Checks checks;
    private final Estate estate;
    private final DemoSettings demo;
    private final MorvetSettings settings;

    DemoOutposts(Outposts outposts, Checks checks, Estate estate, DemoSettings demo, MorvetSettings settings) {
        this.outposts = outposts;
        this.checks = checks;
        this.estate = estate;
        this.demo = demo;
        this.settings = settings;
    }

    void add(Map<String, Long> applications) {
        if (demo.outpostKey() == null) return;
        estate.add(NAME, NAME, "host", applications.get("integration-hub"));
        part("morvet", "Morvet", applications);
        part("morvet-database", "Morvet's database", applications);
        part("stand-ins", "Stand-ins", applications);
        long id = outposts.add(NAME, NAME, demo.outpostKey());
        for (var what : List.of("processor", "memory", "load", "processes")) ask(null, what, Duration.ofSeconds(30));
        ask(null, "disks", MINUTE);
        ask(null, "network", MINUTE);
        ask(id, "processor", Duration.ofSeconds(10));
        look(
                id,
                "Morvet is up",
                "morvet",
                "http",
                Map.of(
                        "url",
                        settings.address() + "/actuator/health",
                        "within",
                        "2 s",
                        "expected",
                        "$.status = \"UP\""));
        look(
                id,
                "Database is reached",
                "morvet-database",
                "port",
                Map.of("host", "127.0.0.1", "port", demo.database()));
        look(
                id,
                "Stand-ins answer",
                "stand-ins",
                "http",
                Map.of("url", demo.desk() + "/hub/status", "within", "2 s", "expected", "$.reportedTo is there"));
        look(id, "Morvet runs", "morvet", "process", Map.of("pattern", "app-1-run\\.jar"));
        look(
                id,
                "Morvet's log",
                "morvet",
                "log",
                Map.of("path", demo.logs() + "/morvet1.log", "pattern", " (?P<level>ERROR|WARN) ", "most", "20"));
        look(id, "Demo's folder", "stand-ins", "command", Map.of("command", "folder size", "arguments", "of=data"));
    }

    private void part(String key, String name, Map<String, Long> applications) {
        // Morvet may have begun to measure itself.
        if (estate.byKey(key).isEmpty()) estate.add(key, name, "instance", applications.get("integration-hub"));
        estate.standsOn(key, NAME);
    }

    private void ask(@org.jspecify.annotations.Nullable Long outpost, String what, Duration every) {
        var whence = outpost == null ? Ask.Whence.ALL : Ask.Whence.ONE;
        outposts.ask(null, outpost, new Ask(whence, "", what, "", every, true), null);
    }

    private void look(long outpost, String name, String component, String kind, Map<String, String> fields) {
        checks.set(name, component, MINUTE, Look.of(kind, fields), List.of(outpost), "", List.of());
    }
}
