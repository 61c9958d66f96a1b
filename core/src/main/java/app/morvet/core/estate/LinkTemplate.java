package app.morvet.core.estate;

import java.net.URI;
import java.net.URISyntaxException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * An address in another tool with places that are filled with the facts of what it is opened from:
 * {@code https://logs.sundrava.example/search?from={from}&to={to}&host={host}}. What is filled in is escaped, so that no fact becomes a part
 * of the address itself.
 *
 * @param text the address with its places
 */
public record LinkTemplate(String text) {
    /** What can be filled in, with what it is. */
    public static final Map<String, String> PLACES = places();

    private static final Pattern PLACE = Pattern.compile("\\{([^{}]*)}");
    private static final int LONGEST = 2000;

    private static Map<String, String> places() {
        var places = new LinkedHashMap<String, String>();
        places.put("component", "key of the component");
        places.put("name", "its name");
        places.put("kind", "its kind");
        places.put("host", "key of the host that it stands on, or its own");
        places.put("application", "key of its application");
        places.put("environment", "production, rehearsal or development");
        places.put("family", "number of the failure family; empty where there is none");
        places.put("case", "number of the case; empty outside of one");
        places.put("from", "when it began, as 2027-03-18T02:00:00Z");
        places.put("to", "when it ended, or now");
        places.put("from.ms", "the same in milliseconds since 1970");
        places.put("to.ms", "the same in milliseconds since 1970");
        return Collections.unmodifiableMap(places);
    }

    /** @throws IllegalArgumentException where it is no address of the web, or names a place that there is not; says which */
    public LinkTemplate {
        text = text.strip();
        if (text.length() > LONGEST)
            throw new IllegalArgumentException("The address is too long: at most %,d characters.".formatted(LONGEST));
        for (var place : named(text))
            if (!PLACES.containsKey(place))
                throw new IllegalArgumentException("There is no {%s} to fill in. There are: %s."
                        .formatted(
                                place,
                                PLACES.keySet().stream()
                                        .map(one -> "{" + one + "}")
                                        .collect(Collectors.joining(", "))));
        var plain = PLACE.matcher(text).replaceAll("x");
        if (plain.indexOf('{') >= 0 || plain.indexOf('}') >= 0)
            throw new IllegalArgumentException("A brace is open: a place is written as {component}.");
        var host = text.substring(0, text.length() - afterHost(text).length());
        if (host.contains("//") && PLACE.matcher(host).find())
            throw new IllegalArgumentException("The host is fixed: places stand behind it.");
        try {
            var address = new URI(plain);
            boolean web = "https".equals(address.getScheme()) || "http".equals(address.getScheme());
            if (!web || address.getHost() == null || address.getUserInfo() != null)
                throw new IllegalArgumentException("The address begins with https:// or http:// and a host.");
        } catch (URISyntaxException wrong) {
            throw new IllegalArgumentException("This is no address: " + wrong.getReason() + ".");
        }
    }

    /** From the first of slash, question mark and hash behind the host on. */
    private static String afterHost(String text) {
        int begin = text.indexOf("//") + 2;
        for (int i = begin; i < text.length(); i++) if ("/?#".indexOf(text.charAt(i)) >= 0) return text.substring(i);
        return "";
    }

    private static List<String> named(String text) {
        return PLACE.matcher(text).results().map(one -> one.group(1)).toList();
    }

    /** With its places filled; a fact that is not known is empty. */
    public String filled(Map<String, String> facts) {
        return PLACE.matcher(text)
                .replaceAll(
                        (MatchResult one) -> Matcher.quoteReplacement(escaped(facts.getOrDefault(one.group(1), ""))));
    }

    private static String escaped(String fact) {
        return URLEncoder.encode(fact, StandardCharsets.UTF_8).replace("+", "%20");
    }
}
