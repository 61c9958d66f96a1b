package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;

/** @param firstLine what must stand in the first line that is sent; empty where it is enough that it can be reached */
public record Port(String name, int port, String firstLine, Duration patience) implements Target {
    public static final Kind KIND = new Kind(
            "port",
            "port",
            false,
            "reach port {port} of {host} and expect {firstLine} in its first line",
            List.of(
                    Kind.Field.of("host", "Host", "wide", "", ""),
                    Kind.Field.of("port", "Port", "short", "", ""),
                    Kind.Field.of("firstLine", "Text in its first line", "wide", "", "anything"),
                    Kind.Field.of("patience", "Longest time", "short", "10 s", "")),
            fields -> new Port(
                    fields.text("host"), fields.whole("port"), fields.text("firstLine"), fields.span("patience")));

    public Port {
        Limits.host(name, port);
        Limits.bearable(patience);
        if (firstLine.length() > 200) throw new IllegalArgumentException("a first line has at most 200 characters");
    }

    public List<Expectation> expectations() {
        return firstLine.isEmpty() ? List.of() : List.of(new Expectation.Text(firstLine, true));
    }

    @Override
    public List<String> hosts() {
        return List.of(Limits.host(name, port));
    }

    @Override
    public String words() {
        return "reach port %d of %s".formatted(port, name)
                + (firstLine.isEmpty() ? "" : " and expect \"" + firstLine + "\" in its first line");
    }
}
