package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;

/** The first certificate that stands in a file, in PEM or DER. */
public record CertificateFile(String path, int days, Duration patience) implements Target {
    public static final Kind KIND = new Kind(
            "certificate-file",
            "certificate in a file",
            true,
            "look at the certificate in {path} and expect {days} days left",
            List.of(
                    Kind.Field.of("path", "File", "wide", "", "/etc/…"),
                    Kind.Field.of("days", "Days left", "short", "21", "")),
            fields -> new CertificateFile(
                    fields.read("path", Limits::path, "/"), fields.whole("days"), Duration.ofSeconds(10)));

    public CertificateFile {
        Limits.path(path);
        Limits.days(days);
    }

    @Override
    public String words() {
        return "look at the certificate in %s and expect %d days left".formatted(path, days);
    }
}
