package app.morvet.core.batch;

import app.morvet.core.estate.ComponentKey;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * Crontab files: a line for each entry, five fields or a word such as {@code @daily}, then the command. {@code CRON_TZ}
 * names the zone of the lines after it. Lines of one command are one job with several schedules.
 */
public final class Crontab {
    private static final Pattern SETTING = Pattern.compile("\\s*([A-Za-z_][A-Za-z0-9_]*)\\s*=\\s*(.*)");
    private static final Pattern ENTRY = Pattern.compile("\\s*(@\\S+|(?:\\S+\\s+){4}\\S+)\\s+(\\S.*)");

    /** @param line where it first stands, from 1 */
    public record Entry(int line, String key, String command, ZoneId zone, List<CronExpression> expressions) {}

    /** @param line counted from 1 */
    public record Wrong(int line, String why) {}

    /** What a file says; {@code wrong} is empty where all of it was understood. */
    public record Reading(List<Entry> entries, List<Wrong> wrong) {}

    private Crontab() {}

    /** @param zone of entries without {@code CRON_TZ} */
    public static Reading read(String text, ZoneId zone) {
        Map<String, Entry> entries = new LinkedHashMap<>();
        var wrong = new ArrayList<Wrong>();
        var here = zone;
        int number = 0;
        for (var line : text.lines().toList()) {
            number++;
            if (line.isBlank() || line.strip().startsWith("#")) continue;
            try {
                var setting = SETTING.matcher(line);
                if (setting.matches()) {
                    if (setting.group(1).equals("CRON_TZ")) here = zone(setting.group(2));
                    continue;
                }
                add(line, number, here, entries);
            } catch (IllegalArgumentException bad) {
                wrong.add(new Wrong(number, String.valueOf(bad.getMessage())));
            }
        }
        return new Reading(List.copyOf(entries.values()), List.copyOf(wrong));
    }

    private static void add(String line, int number, ZoneId zone, Map<String, Entry> entries) {
        if (line.strip().toLowerCase(Locale.ROOT).startsWith("@reboot"))
            throw new IllegalArgumentException(
                    "@reboot starts with the machine and not at a time; give it a schedule or leave it out");
        var entry = ENTRY.matcher(line);
        if (!entry.matches())
            throw new IllegalArgumentException("five fields and a command are wanted, such as 30 2 * * * import-fares");
        var expression = CronExpression.of(entry.group(1));
        var command = entry.group(2).strip();
        var key = key(command);
        if (key.isEmpty()) throw new IllegalArgumentException("no name can be made of \"" + command + "\"");
        var known = entries.get(key);
        if (known == null) entries.put(key, new Entry(number, key, command, zone, List.of(expression)));
        else {
            if (!known.command().equals(command))
                throw new IllegalArgumentException(
                        "\"%s\" and line %d would both be the job %s; name one of them otherwise"
                                .formatted(command, known.line(), key));
            if (!known.zone().equals(zone))
                throw new IllegalArgumentException("line %d runs the same command in %s; a job has one zone"
                        .formatted(known.line(), known.zone()));
            var more = new ArrayList<>(known.expressions());
            more.add(expression);
            entries.put(key, new Entry(known.line(), key, command, zone, List.copyOf(more)));
        }
    }

    private static ZoneId zone(String name) {
        try {
            return ZoneId.of(name.strip().replace("\"", ""));
        } catch (DateTimeException unknown) {
            throw new IllegalArgumentException(
                    "\"" + name.strip() + "\" is no time zone; write one such as Europe/Helsinki");
        }
    }

    /** The name of the program without its folder and ending. */
    static String key(String command) {
        var program = command.split("\\s+", 2)[0];
        program = program.substring(program.lastIndexOf('/') + 1).replaceAll("\\.(sh|py|pl|jar|bat|cmd|exe)$", "");
        return ComponentKey.of(program);
    }

    /**
     * One job's lines.
     *
     * @param command what is run; its key where it is not known
     * @return a comment for what a crontab cannot say
     */
    public static String write(Job job, String command) {
        var text = new StringBuilder();
        for (var schedule : job.timetable().schedules()) {
            if (schedule instanceof Schedule.Cron(var expression, var holiday) && holiday == Schedule.OnHoliday.STARTS)
                text.append(expression).append(' ').append(command).append('\n');
            else
                text.append("# not in a crontab: ")
                        .append(job.key())
                        .append(", ")
                        .append(ScheduleWords.of(schedule))
                        .append('\n');
        }
        if (job.timetable().schedules().isEmpty())
            text.append("# not in a crontab: ")
                    .append(job.key())
                    .append(job.waits().isEmpty() ? ", has no schedule" : ", after " + String.join(", ", job.waits()))
                    .append('\n');
        return text.toString();
    }
}
