package app.morvet.sources.intake;

import jakarta.servlet.http.HttpServletRequest;
import java.io.EOFException;
import java.io.IOException;
import java.util.Locale;
import java.util.zip.GZIPInputStream;
import java.util.zip.ZipException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;

/** The body of a request, unpacked where it is packed. Neither what is sent nor what it unpacks to may be too large. */
final class Body {
    static final int LARGEST = 32 * 1024 * 1024;

    private Body() {}

    /**
     * @throws Refusal     where it is too large, damaged, or packed in another way than gzip
     * @throws IOException where the connection breaks
     */
    static byte[] of(HttpServletRequest request) throws IOException {
        if (request.getContentLengthLong() > LARGEST) throw tooLarge("");
        var sent = request.getInputStream().readNBytes(LARGEST + 1);
        if (sent.length > LARGEST) throw tooLarge("");
        var encoding = request.getHeader(HttpHeaders.CONTENT_ENCODING);
        return switch (encoding == null ? "" : encoding.strip().toLowerCase(Locale.ROOT)) {
            case "", "identity" -> sent;
            case "gzip", "x-gzip" -> unpacked(sent);
            default ->
                throw new Refusal(
                        HttpStatus.UNSUPPORTED_MEDIA_TYPE,
                        "Unknown content encoding",
                        "Send the body packed with gzip or not at all, was \"%s\".".formatted(encoding));
        };
    }

    private static byte[] unpacked(byte[] sent) throws IOException {
        try (var in = new GZIPInputStream(new java.io.ByteArrayInputStream(sent))) {
            var body = in.readNBytes(LARGEST + 1);
            if (body.length > LARGEST) throw tooLarge(" unpacked");
            return body;
        } catch (ZipException | EOFException damaged) {
            throw new Refusal(
                    HttpStatus.BAD_REQUEST,
                    "Unreadable body",
                    "It is said to be packed with gzip and cannot be unpacked: %s.".formatted(damaged.getMessage()));
        }
    }

    private static Refusal tooLarge(String how) {
        return new Refusal(
                HttpStatus.CONTENT_TOO_LARGE,
                "Body too large",
                "At most %d MiB a request%s; split the batch.".formatted(LARGEST / 1024 / 1024, how));
    }
}
