package app.morvet.sources.intake;

import jakarta.servlet.http.HttpServletRequest;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Collections;
import java.util.Locale;
import org.springframework.http.HttpHeaders;
import org.springframework.web.util.UriUtils;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * An event in the binary mode of the HTTP protocol binding of CloudEvents 1.0 (section 3.1): its attributes are headers that
 * begin with {@code ce-}, percent-encoded where they are more than plain ASCII; its data is the body, its
 * {@code datacontenttype} the content type.
 */
final class BinaryEvent {
    private static final String PREFIX = "ce-";

    private BinaryEvent() {}

    static boolean isOne(HttpServletRequest request) {
        return request.getHeader(PREFIX + "specversion") != null
                || request.getHeader(PREFIX + "id") != null
                || request.getHeader(PREFIX + "type") != null;
    }

    /** The same event in the JSON format. */
    static ObjectNode structured(HttpServletRequest request, byte[] body) {
        var event = JsonNodeFactory.instance.objectNode();
        for (var name : Collections.list(request.getHeaderNames())) {
            var plain = name.toLowerCase(Locale.ROOT);
            if (plain.startsWith(PREFIX) && plain.length() > PREFIX.length())
                event.put(plain.substring(PREFIX.length()), decoded(request.getHeader(name)));
        }
        var type = request.getHeader(HttpHeaders.CONTENT_TYPE);
        if (type != null) event.put("datacontenttype", type);
        if (body.length > 0) event.put("data_base64", Base64.getEncoder().encodeToString(body));
        return event;
    }

    private static String decoded(String value) {
        var utf8 = new String(value.getBytes(StandardCharsets.ISO_8859_1), StandardCharsets.UTF_8);
        try {
            return UriUtils.decode(utf8, StandardCharsets.UTF_8);
        } catch (IllegalArgumentException notEncoded) {
            return utf8;
        }
    }
}
