package app.morvet.probe;

import app.morvet.core.checks.OsService;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import java.io.IOException;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Asks the operating system what a service is in, and how it is started: systemd, or the service control of Windows. */
final class ServiceLooking implements Looking<OsService> {
    private static final Duration LONGEST = Duration.ofSeconds(10);

    /**
     * What a system says of a service.
     *
     * @param state one of {@link OsService#WORDS}
     * @param start how it is started, as the system calls it
     */
    record Told(String state, String start) {}

    private final boolean windows =
            System.getProperty("os.name", "").toLowerCase(Locale.ROOT).startsWith("windows");

    @Override
    public Class<OsService> of() {
        return OsService.class;
    }

    @Override
    public Result at(OsService target, Around around, Watch watch) throws IOException, InterruptedException {
        var told = windows
                ? ofWindows(
                        target.name(),
                        ask(List.of("sc.exe", "query", target.name())),
                        ask(List.of("sc.exe", "qc", target.name())))
                : ofSystemd(
                        target.name(),
                        ask(List.of(
                                "systemctl",
                                "show",
                                "--property=LoadState,ActiveState,SubState,UnitFileState",
                                "--",
                                target.name())));
        return result(target, told, watch.took());
    }

    static Result result(OsService target, Told told, Duration took) {
        var verdict = Verdict.of(target.wanted(), told.state().equals(target.wanted()), "it is " + told.state());
        return Result.of(List.of(verdict), took, "%s, start mode %s".formatted(told.state(), told.start()))
                .with(
                        List.of(Result.Figure.state("service", OsService.WORDS, told.state())),
                        Map.of("start_mode", told.start()),
                        "");
    }

    private static String ask(List<String> words) throws IOException, InterruptedException {
        Run run;
        try {
            run = Run.of(words, LONGEST);
        } catch (IOException none) {
            throw new IllegalArgumentException("this system has no " + words.getFirst(), none);
        }
        if (run.ended()) throw new IOException(words.getFirst() + " does not answer");
        return run.output();
    }

    /** @param shown what {@code systemctl show} prints, a property a line */
    static Told ofSystemd(String name, String shown) {
        var said = new HashMap<String, String>();
        shown.lines().filter(line -> line.contains("=")).forEach(line -> {
            var part = line.split("=", 2);
            said.put(part[0], part[1]);
        });
        if (!said.containsKey("ActiveState"))
            throw new IllegalArgumentException("systemd does not answer: " + shown.strip());
        if (said.getOrDefault("LoadState", "").equals("not-found"))
            throw new IllegalArgumentException("there is no service " + name);
        var state =
                switch (said.get("ActiveState")) {
                    case "active" -> said.getOrDefault("SubState", "").equals("exited") ? "stopped" : "running";
                    case "activating", "reloading" -> "starting";
                    case "failed" -> "failed";
                    default -> "stopped";
                };
        return new Told(state, said.getOrDefault("UnitFileState", ""));
    }

    /**
     * @param query  what {@code sc query} prints
     * @param config what {@code sc qc} prints
     */
    static Told ofWindows(String name, String query, String config) {
        var state = value(query, "STATE");
        if (state.isEmpty()) throw new IllegalArgumentException("there is no service " + name + ": " + query.strip());
        int exit = number(value(query, "WIN32_EXIT_CODE"));
        var word =
                switch (number(state)) {
                    case 4 -> "running";
                    case 2, 5 -> "starting";
                    // 1077: it was never started since the machine was.
                    default -> exit == 0 || exit == 1077 ? "stopped" : "failed";
                };
        return new Told(
                word, value(config, "START_TYPE").replaceAll("^\\d+\\s+", "").strip());
    }

    private static String value(String lines, String name) {
        return lines.lines()
                .map(String::strip)
                .filter(line -> line.matches(name + "\\s*:.*"))
                .map(line -> line.substring(line.indexOf(':') + 1).strip())
                .findFirst()
                .orElse("");
    }

    private static int number(String text) {
        var digits = text.replaceAll("^(\\d{1,9}).*$", "$1");
        return digits.matches("\\d{1,9}") ? Integer.parseInt(digits) : -1;
    }
}
