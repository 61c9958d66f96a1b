package app.morvet.core.checks;

import app.morvet.core.guard.Spans;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A command that the file of the outpost names, and its exit code.
 *
 * @param name      as that file calls it
 * @param arguments by name; that file says which there may be
 * @param good      exit codes that pass
 * @param patience  how long it may run; it is ended with its children then
 */
public record Command(
        String name,
        Map<String, String> arguments,
        List<Integer> good,
        List<Expectation> expectations,
        Duration patience)
        implements Target {
    private static final Duration LONGEST = Duration.ofMinutes(10);

    public static final Kind KIND = new Kind(
            "command",
            "command",
            true,
            "run {command} with {arguments} for {longest} at most and expect exit code {exit}",
            List.of(
                    Kind.Field.of("command", "Command, as its outpost calls it", "wide", "", ""),
                    Kind.Field.of("arguments", "Arguments", "wide", "", "none; depth=full"),
                    Kind.Field.of("longest", "Longest time", "short", "30 s", ""),
                    Kind.Field.of("exit", "Exit codes", "short", "0", "0, 3"),
                    Kind.Field.of("expected", "Expected of its output, a line each", "lines", "", "no text \"ERROR\"")),
            fields -> new Command(
                    fields.text("command"),
                    fields.read("arguments", Command::arguments, Map.of()),
                    fields.read("exit", Command::codes, List.of(0)),
                    fields.read("expected", Expectation::read, List.of()),
                    fields.span("longest")));

    public Command {
        if (!name.matches("[A-Za-z0-9][A-Za-z0-9 ._-]{0,99}"))
            throw new IllegalArgumentException("a command is called by letters, digits, blanks, dots and dashes");
        if (patience.compareTo(Duration.ofSeconds(1)) < 0 || patience.compareTo(LONGEST) > 0)
            throw new IllegalArgumentException("a command runs 1 s to 10 min");
        arguments = Map.copyOf(arguments);
    }

    private static Map<String, String> arguments(String text) {
        var arguments = new LinkedHashMap<String, String>();
        if (text.isEmpty()) return arguments;
        for (var one : text.split("\\s*,\\s*")) {
            var part = one.split("=", 2);
            if (part.length < 2 || !part[0].strip().matches("[A-Za-z][A-Za-z0-9_-]*"))
                throw new IllegalArgumentException("\"" + one + "\" is no argument; write it as depth=full");
            arguments.put(part[0].strip(), part[1].strip());
        }
        return arguments;
    }

    private static List<Integer> codes(String text) {
        return List.of(text.split(",")).stream()
                .map(String::strip)
                .map(one -> {
                    if (!one.matches("\\d{1,3}"))
                        throw new IllegalArgumentException("\"" + one + "\" is no exit code; write 0, or 0, 3");
                    return Integer.parseInt(one);
                })
                .toList();
    }

    /** Whether an exit code passes. */
    public Verdict verdict(int code) {
        return Verdict.of("exit code " + codeWords(), good.contains(code), "it ended with " + code);
    }

    private String codeWords() {
        return String.join(" or ", good.stream().map(String::valueOf).toList());
    }

    @Override
    public String words() {
        var with = arguments.isEmpty()
                ? ""
                : " with "
                        + String.join(
                                ", ",
                                arguments.entrySet().stream()
                                        .map(one -> one.getKey() + "=" + one.getValue())
                                        .sorted()
                                        .toList());
        return "run %s%s for %s at most and expect exit code %s%s"
                .formatted(
                        name,
                        with,
                        Spans.words(patience),
                        codeWords(),
                        expectations.isEmpty()
                                ? ""
                                : " with "
                                        + String.join(
                                                " and ",
                                                expectations.stream()
                                                        .map(Expectation::words)
                                                        .toList()));
    }
}
