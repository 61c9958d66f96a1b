package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;

/**
 * The processes whose command line matches.
 *
 * @param port that one of them must listen on; 0 where that does not matter
 */
public record Processes(String pattern, int least, int most, int port, Duration patience) implements Target {
    public static final Kind KIND = new Kind(
            "process",
            "processes",
            true,
            "count the processes whose command line matches {pattern} and expect {least} to {most}, one of them at port {port}",
            List.of(
                    Kind.Field.of("pattern", "Pattern", "wide", "", "java .*ledger-post.*"),
                    Kind.Field.of("least", "At least", "short", "1", ""),
                    Kind.Field.of("most", "At most", "short", "999", ""),
                    Kind.Field.of("port", "Port", "short", "0", "")),
            fields -> new Processes(
                    fields.read("pattern", text -> AnswerPath.pattern(text).pattern(), "none"),
                    fields.whole("least"),
                    fields.whole("most"),
                    fields.whole("port"),
                    Duration.ofSeconds(10)));

    public Processes {
        if (pattern.isBlank()) throw new IllegalArgumentException("say which processes");
        if (least > most) throw new IllegalArgumentException("at least " + least + " is more than at most " + most);
        if (port > 65_535) throw new IllegalArgumentException("a port is 1 to 65535, or 0 for any");
    }

    /** Whether a command line is one of them. */
    public boolean fits(String commandLine) {
        return AnswerPath.pattern(pattern).matcher(commandLine).find();
    }

    @Override
    public String words() {
        return "count the processes whose command line matches %s and expect %s%s"
                .formatted(
                        pattern,
                        most == 999 ? "at least " + least : least + " to " + most,
                        port == 0 ? "" : ", one of them at port " + port);
    }
}
