package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;

/**
 * The certificate that a port shows.
 *
 * @param days    so many must be left until it runs out
 * @param trusted whether its chain must be signed by somebody who is believed, and its names fit the host
 * @param trust   certificates in PEM of those who are; empty for those that everybody believes
 */
public record Certificate(String name, int port, int days, boolean trusted, String trust, Duration patience)
        implements Target {
    private static final String KNOWN = "signed by somebody known";

    public static final Kind KIND = new Kind(
            "certificate",
            "certificate",
            false,
            "look at the certificate of {host} at port {port} and expect {days} days left, {trusted}",
            List.of(
                    Kind.Field.of("host", "Host", "wide", "", ""),
                    Kind.Field.of("port", "Port", "short", "443", ""),
                    Kind.Field.of("days", "Days left", "short", "21", ""),
                    Kind.Field.choice("trusted", "Whose", "whoever signed it", KNOWN),
                    Kind.Field.of("trust", "Believed certificates, in PEM", "lines", "", ""),
                    Kind.Field.of("patience", "Longest time", "short", "10 s", "")),
            fields -> new Certificate(
                    fields.text("host"),
                    fields.whole("port"),
                    fields.whole("days"),
                    fields.text("trusted").equals(KNOWN),
                    fields.text("trust"),
                    fields.span("patience")));

    public Certificate {
        Limits.host(name, port);
        Limits.bearable(patience);
        Limits.days(days);
    }

    @Override
    public List<String> hosts() {
        return List.of(Limits.host(name, port));
    }

    @Override
    public String words() {
        return "look at the certificate of %s:%d and expect %d days left%s"
                .formatted(name, port, days, trusted ? ", " + KNOWN : "");
    }
}
