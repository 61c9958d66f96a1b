package app.morvet.standins.scheduler;

import app.morvet.standins.ToMorvet;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;

/** What the scheduler tells of runs and files, as CloudEvents 1.0. */
final class RunsTold {
    private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss", Locale.ENGLISH);

    private RunsTold() {}

    static Map<String, Object> started(Task task, String run, Instant at, Instant meant, String trigger) {
        var data = new LinkedHashMap<String, Object>();
        data.put("run", run);
        if (!task.times().isEmpty()) data.put("scheduled", meant.toString());
        data.put("trigger", trigger);
        data.put("node", node(task));
        return event("started", run, task.key(), at, data);
    }

    static Map<String, Object> progress(Active one, Instant at, double share) {
        var data = new LinkedHashMap<String, Object>();
        data.put("run", one.run());
        data.put("percent", Math.round(share * 1000) / 10.0);
        data.put("records", Math.round(share * one.records()));
        return event("progress", one.run() + ":" + at.getEpochSecond(), one.job(), at, data);
    }

    static Map<String, Object> finished(Task task, Active one, Instant at, int code) {
        var data = new LinkedHashMap<String, Object>();
        data.put("run", one.run());
        data.put("started", one.started().toString());
        data.put("exitCode", code);
        data.put("records", code == 0 ? one.records() : Math.round(one.at(at) * one.records()));
        data.put("output", output(task, one, at, code));
        return event("finished", one.run(), one.job(), at, data);
    }

    static Map<String, Object> cancelled(Active one, Instant at) {
        var data = new LinkedHashMap<String, Object>();
        data.put("run", one.run());
        data.put("started", one.started().toString());
        data.put("reason", "killed by an order");
        return event("cancelled", one.run(), one.job(), at, data);
    }

    static Map<String, Object> file(String name, Instant at) {
        return envelope("file:" + name, "app.morvet.file.arrived", name, at, Map.of("node", "landing-1"));
    }

    private static Map<String, Object> event(String what, String id, String job, Instant at, Map<String, Object> data) {
        return envelope(what + ":" + id, "app.morvet.run." + what, job, at, data);
    }

    private static Map<String, Object> envelope(
            String id, String type, String subject, Instant at, Map<String, Object> data) {
        return ToMorvet.event("/sundrava/scheduler", id, type, subject, at, data);
    }

    private static String node(Task task) {
        return "batch-" + (1 + Math.floorMod(task.key().hashCode(), 2));
    }

    /** What a run wrote: its steps with their counts, and where it failed, why. */
    private static String output(Task task, Active one, Instant at, int code) {
        var lines = new StringBuilder();
        var random = new SplittableRandom(one.run().hashCode());
        long whole = Duration.between(one.started(), at).toMillis();
        line(lines, one.started(), "INFO  " + task.name() + " begins on " + node(task) + ", run " + one.run());
        int last =
                code == 0 ? task.steps().size() - 1 : Math.min(1, task.steps().size() - 1);
        for (int i = 0; i <= last; i++) {
            var when = one.started().plusMillis(whole * i / (last + 1));
            line(
                    lines,
                    when,
                    "INFO  step " + (i + 1) + " of " + task.steps().size() + ": "
                            + task.steps().get(i));
            for (int part = 1; part <= 4; part++) {
                var then = when.plusMillis(whole * part / (last + 1) / 5);
                line(
                        lines,
                        then,
                        "INFO    " + one.records() * part / 4 + " records, " + (random.nextInt(40) + 20) + " a second");
            }
            if (one.records() > 100 && random.nextInt(3) == 0)
                line(
                        lines,
                        when.plusMillis(whole / (last + 1) / 2),
                        "WARN    " + (1 + random.nextInt(4)) + " records put aside, see the list of the day");
        }
        if (code != 0) {
            line(lines, at, "ERROR step " + (last + 1) + " of " + task.steps().size() + " failed");
            line(lines, at, "ERROR " + why(task, code));
            line(lines, at, "ERROR nothing of this step was kept");
        } else line(lines, at, "INFO  done, " + one.records() + " records");
        line(lines, at, "INFO  exit code " + code);
        return lines.toString();
    }

    private static String why(Task task, int code) {
        return switch (code) {
            case 12 -> "the list has 61 columns where 58 are known: harbour_tax, eu_levy, storage_fee";
            case 28 -> "no space left on /archive: 5.1 GB wanted, 0.3 GB free";
            case 1 -> "the database does not answer: connection timed out after 30 s";
            default -> task.name() + " gives up with code " + code;
        };
    }

    private static void line(StringBuilder lines, Instant at, String words) {
        lines.append(STAMP.format(at.atZone(Course.ZONE)))
                .append(' ')
                .append(words)
                .append('\n');
    }
}
