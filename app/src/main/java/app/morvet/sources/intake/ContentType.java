package app.morvet.sources.intake;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;

/**
 * What a body is, by its header (RFC 9110, section 8.3).
 *
 * @param media   type and subtype in lower case, without parameters; empty where the header is missing
 * @param charset of its text; UTF-8 where it says nothing
 */
record ContentType(String media, Charset charset) {
    /** @throws Refusal where it cannot be read, or names a charset that is not known */
    static ContentType of(String header) {
        if (header.isBlank()) return new ContentType("", StandardCharsets.UTF_8);
        try {
            var type = MediaType.parseMediaType(header);
            var charset = type.getCharset();
            return new ContentType(
                    (type.getType() + "/" + type.getSubtype()).toLowerCase(Locale.ROOT),
                    charset == null ? StandardCharsets.UTF_8 : charset);
        } catch (IllegalArgumentException bad) {
            throw new Refusal(
                    HttpStatus.UNSUPPORTED_MEDIA_TYPE,
                    "Unreadable content type",
                    "\"%s\" is no content type, or its charset is not known here.".formatted(header));
        }
    }

    boolean json() {
        return media.equals("application/json") || media.equals("text/json") || media.endsWith("+json");
    }

    /** The body as text. @throws Refusal where it is not in its charset */
    String text(byte[] body) {
        try {
            return charset.newDecoder().decode(ByteBuffer.wrap(body)).toString();
        } catch (CharacterCodingException bad) {
            throw new Refusal(
                    HttpStatus.BAD_REQUEST,
                    "Unreadable body",
                    "The body is not in %s. Send it in UTF-8, or name its charset in the content type."
                            .formatted(charset.name()));
        }
    }
}
