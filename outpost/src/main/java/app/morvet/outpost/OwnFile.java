package app.morvet.outpost;

import app.morvet.core.guard.Spans;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.yaml.snakeyaml.LoaderOptions;
import org.yaml.snakeyaml.Yaml;
import org.yaml.snakeyaml.constructor.SafeConstructor;
import org.yaml.snakeyaml.error.YAMLException;

/**
 * What the file on the host says: where Morvet is, who this is, and what may be done here. Nobody but who may write that file
 * can allow more.
 *
 * @param reach    hosts with their ports that checks may reach
 * @param read     folders that may be read, with all below them
 * @param commands that checks may run, by name
 * @param actions  that people may ask for, by name
 * @param watcher  what is told when Morvet does not answer; null for nothing
 */
public record OwnFile(
        URI morvet,
        String name,
        String key,
        Path spool,
        long spoolBytes,
        List<String> reach,
        List<Path> read,
        Map<String, Command> commands,
        Map<String, Action> actions,
        @Nullable Watcher watcher) {
    private static final Set<String> KNOWN = Set.of(
            "morvet", "name", "key", "keyFile", "spool", "spoolMiB", "reach", "read", "commands", "actions", "watcher");
    private static final Set<String> RIGHTS = Set.of("analyst", "lead", "admin");
    private static final long MEBIBYTE = 1024 * 1024;

    /**
     * A program with its words. A word {@code {name}} stands for an argument.
     *
     * @param arguments by name, the values that each may have
     */
    public record Command(List<String> run, Map<String, List<String>> arguments, Duration longest) {
        /**
         * The words to run.
         *
         * @throws IllegalArgumentException where an argument is not one of those listed
         */
        List<String> words(Map<String, String> given) {
            for (var name : given.keySet())
                if (!arguments.containsKey(name))
                    throw new IllegalArgumentException("there is no argument " + name + " here");
            var words = new ArrayList<String>();
            for (var word : run) {
                if (!word.matches("\\{[A-Za-z][A-Za-z0-9_-]*}")) {
                    words.add(word);
                    continue;
                }
                var name = word.substring(1, word.length() - 1);
                var value = given.get(name);
                if (value == null) throw new IllegalArgumentException("the argument " + name + " is missing");
                if (!arguments.getOrDefault(name, List.of()).contains(value))
                    throw new IllegalArgumentException("%s=%s is not one of %s"
                            .formatted(name, value, String.join(", ", arguments.getOrDefault(name, List.of()))));
                words.add(value);
            }
            return words;
        }
    }

    /**
     * Something that may be asked for.
     *
     * @param of     the component that it is done to, by its key; empty for the host
     * @param right  the least that who asks must be: analyst, lead or admin
     * @param atMost so often within {@code within}
     */
    public record Action(Command command, String of, String right, int atMost, Duration within) {}

    /**
     * @param after how long Morvet may be away
     * @param call  where a web call goes; empty for none
     * @param mail  the mail server as {@code host:port}; empty for none
     */
    public record Watcher(Duration after, String call, String mail, String from, List<String> to) {}

    /**
     * @param given what was said on the command line, which wins over the file
     * @throws IllegalArgumentException where something is missing or wrong; says what and where
     */
    static OwnFile read(@Nullable Path file, Map<String, String> given) throws IOException {
        var all = new HashMap<String, Object>();
        if (file != null) all.putAll(tree(file));
        for (var name : all.keySet())
            if (!KNOWN.contains(name))
                throw new IllegalArgumentException("%s says %s, which means nothing; known are %s"
                        .formatted(
                                file,
                                name,
                                String.join(", ", KNOWN.stream().sorted().toList())));
        all.putAll(given);
        var name = text(all, "name");
        var key = all.containsKey("keyFile")
                ? Files.readString(Path.of(text(all, "keyFile"))).strip()
                : text(all, "key");
        if (name.isEmpty() || key.isEmpty() || text(all, "morvet").isEmpty())
            throw new IllegalArgumentException("say where Morvet is, the name of this outpost and its key");
        var morvet = URI.create(text(all, "morvet").replaceAll("/+$", ""));
        if (!Set.of("http", "https").contains(String.valueOf(morvet.getScheme())) || morvet.getHost() == null)
            throw new IllegalArgumentException("morvet must be http://host:port or https://host");
        return new OwnFile(
                morvet,
                name,
                key,
                Path.of(text(all, "spool").isEmpty() ? "spool" : text(all, "spool")),
                (text(all, "spoolMiB").isEmpty() ? 64 : Long.parseLong(text(all, "spoolMiB"))) * MEBIBYTE,
                list(all.get("reach"), "reach"),
                list(all.get("read"), "read").stream()
                        .map(one -> Path.of(one).toAbsolutePath().normalize())
                        .toList(),
                commands(map(all.get("commands"), "commands")),
                actions(map(all.get("actions"), "actions")),
                watcher(map(all.get("watcher"), "watcher")));
    }

    private static Map<String, Object> tree(Path file) throws IOException {
        try {
            var options = new LoaderOptions();
            options.setAllowDuplicateKeys(false);
            options.setMaxAliasesForCollections(0);
            Object tree = new Yaml(new SafeConstructor(options)).load(Files.readString(file));
            return map(tree, file.toString());
        } catch (YAMLException unreadable) {
            throw new IllegalArgumentException(file + " cannot be read: " + unreadable.getMessage(), unreadable);
        }
    }

    private static Map<String, Command> commands(Map<String, Object> all) {
        var commands = new LinkedHashMap<String, Command>();
        all.forEach((name, one) -> commands.put(name, command(name, map(one, "command " + name))));
        return commands;
    }

    private static Command command(String name, Map<String, Object> fields) {
        var run = list(fields.get("run"), name + ": run");
        if (run.isEmpty())
            throw new IllegalArgumentException(
                    name + ": run is a list of words, the program first, such as [systemctl, restart, ledger-post]");
        var arguments = new LinkedHashMap<String, List<String>>();
        map(fields.get("arguments"), name + ": arguments")
                .forEach((argument, values) ->
                        arguments.put(argument, list(values, name + ": the values of " + argument)));
        var longest = text(fields, "longest").isEmpty() ? Duration.ofSeconds(30) : Spans.read(text(fields, "longest"));
        return new Command(run, arguments, longest);
    }

    private static Map<String, Action> actions(Map<String, Object> all) {
        var actions = new LinkedHashMap<String, Action>();
        all.forEach((name, one) -> {
            var fields = map(one, "action " + name);
            var right = text(fields, "right").isEmpty() ? "analyst" : text(fields, "right");
            if (!RIGHTS.contains(right))
                throw new IllegalArgumentException(name + ": right is analyst, lead or admin, was " + right);
            var often = text(fields, "atMost").isEmpty() ? "4 in 1 h" : text(fields, "atMost");
            var part = often.split("\\s+in\\s+", 2);
            if (part.length < 2 || !part[0].matches("\\d{1,4}"))
                throw new IllegalArgumentException(name + ": atMost is written 4 in 1 h, was " + often);
            actions.put(
                    name,
                    new Action(
                            command(name, fields),
                            text(fields, "of"),
                            right,
                            Integer.parseInt(part[0]),
                            Spans.read(part[1])));
        });
        return actions;
    }

    private static @Nullable Watcher watcher(Map<String, Object> fields) {
        if (fields.isEmpty()) return null;
        return new Watcher(
                text(fields, "after").isEmpty() ? Duration.ofMinutes(2) : Spans.read(text(fields, "after")),
                text(fields, "call"),
                text(fields, "mail"),
                text(fields, "from"),
                list(fields.get("to"), "watcher: to"));
    }

    private static String text(Map<String, ?> fields, String name) {
        var value = fields.get(name);
        return value == null ? "" : value.toString().strip();
    }

    private static List<String> list(@Nullable Object value, String what) {
        if (value == null) return List.of();
        if (value instanceof List<?> list)
            return list.stream().map(String::valueOf).toList();
        throw new IllegalArgumentException(what + " is a list");
    }

    private static Map<String, Object> map(@Nullable Object value, String what) {
        if (value == null) return Map.of();
        if (!(value instanceof Map<?, ?> map)) throw new IllegalArgumentException(what + " has names and values");
        var all = new LinkedHashMap<String, Object>();
        map.forEach((name, one) -> all.put(String.valueOf(name), one == null ? "" : one));
        return all;
    }

    /** What it allows, a line each, for people to read in Morvet. */
    List<String> allows() {
        var lines = new ArrayList<String>();
        if (!reach.isEmpty()) lines.add("checks may reach " + String.join(", ", reach));
        if (!read.isEmpty())
            lines.add("files below "
                    + String.join(", ", read.stream().map(Path::toString).toList()) + " may be read");
        commands.forEach((name, one) -> lines.add("command " + name
                + (one.arguments().isEmpty()
                        ? ""
                        : " with "
                                + String.join(
                                        ", ",
                                        one.arguments().entrySet().stream()
                                                .map(it -> it.getKey() + " one of " + String.join(", ", it.getValue()))
                                                .toList()))));
        return lines;
    }
}
