package app.morvet.core.messages;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.StandardCharsets;
import java.nio.charset.UnsupportedCharsetException;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * Tells whether bytes are a text, and which: by a byte order mark, by what the media type or an XML declaration names, or
 * else as UTF-8. Every byte must fit; what is half a text is shown as bytes, not guessed at.
 */
public final class PayloadText {
    private static final Pattern NAMED = Pattern.compile("(?i)charset\\s*=\\s*\"?([\\w.:-]{1,40})");
    private static final Pattern DECLARED =
            Pattern.compile("^\\s*<\\?xml[^>]{0,200}encoding\\s*=\\s*[\"']([\\w.:-]{1,40})[\"']");

    private PayloadText() {}

    public static Optional<String> of(String mediaType, byte[] bytes) {
        return decoded(charset(mediaType, bytes), bytes)
                .map(text -> text.startsWith("\uFEFF") ? text.substring(1) : text)
                .filter(PayloadText::isText);
    }

    private static Charset charset(String mediaType, byte[] bytes) {
        if (bytes.length >= 2 && (bytes[0] & 0xff) == 0xfe && (bytes[1] & 0xff) == 0xff)
            return StandardCharsets.UTF_16BE;
        if (bytes.length >= 2 && (bytes[0] & 0xff) == 0xff && (bytes[1] & 0xff) == 0xfe)
            return StandardCharsets.UTF_16LE;
        var named = NAMED.matcher(mediaType);
        if (named.find()) return known(named.group(1));
        var head = new String(bytes, 0, Math.min(bytes.length, 300), StandardCharsets.ISO_8859_1);
        var declared = DECLARED.matcher(head);
        return declared.find() ? known(declared.group(1)) : StandardCharsets.UTF_8;
    }

    private static Charset known(String name) {
        try {
            return Charset.forName(name);
        } catch (IllegalCharsetNameException | UnsupportedCharsetException unknown) {
            return StandardCharsets.UTF_8;
        }
    }

    private static Optional<String> decoded(Charset charset, byte[] bytes) {
        try {
            return Optional.of(charset.newDecoder()
                    .onMalformedInput(CodingErrorAction.REPORT)
                    .onUnmappableCharacter(CodingErrorAction.REPORT)
                    .decode(ByteBuffer.wrap(bytes))
                    .toString());
        } catch (CharacterCodingException notText) {
            return Optional.empty();
        }
    }

    private static boolean isText(String text) {
        return text.chars().noneMatch(c -> c < ' ' && "\t\n\r\f".indexOf(c) < 0);
    }
}
