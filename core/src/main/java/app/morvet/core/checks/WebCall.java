package app.morvet.core.checks;

import java.net.URI;
import java.net.URISyntaxException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * Calls over HTTP, one after the other; what one answers may be said in those that follow.
 *
 * @param steps one to ten
 * @param proxy through which it is called, as {@code host:port}; empty where it is called straight
 * @param trust certificates in PEM of those whose signature is believed; empty for those that everybody believes
 */
public record WebCall(List<Step> steps, Duration patience, String proxy, String trust) implements Target {
    public static final List<String> METHODS = List.of("GET", "HEAD", "POST", "PUT", "DELETE", "OPTIONS");
    public static final int MOST_STEPS = 10;
    private static final int LONGEST_BODY = 65_536;
    private static final Pattern CARRIED = Pattern.compile("\\{([a-z][a-zA-Z0-9]*)}");
    private static final Set<String> OF_A_STEP =
            Set.of("method", "url", "codes", "within", "expected", "takes", "body", "follow");

    public static final Kind KIND = new Kind(
            "http",
            "web call",
            false,
            "{method} {url} and expect {codes} within {within}",
            List.of(
                    Kind.Field.choice("method", "Method", METHODS.toArray(String[]::new)),
                    Kind.Field.of("url", "Address", "wide", "", "https://…"),
                    Kind.Field.of("codes", "Codes", "short", "200", ""),
                    Kind.Field.of("within", "Within", "short", "", "any time"),
                    Kind.Field.of(
                            "expected", "Expected of what it answers, a line each", "lines", "", "$.status = \"open\""),
                    Kind.Field.of(
                            "takes", "Carried into the next steps, a line each", "lines", "", "token from $.token"),
                    Kind.Field.of("body", "Body", "lines", "", ""),
                    Kind.Field.of("follow", "Go where it is sent on to", "yes", "", ""),
                    Kind.Field.of("patience", "Longest time", "short", "10 s", ""),
                    Kind.Field.of("proxy", "Through a proxy", "short", "", "host:port"),
                    Kind.Field.of("trust", "Believed certificates, in PEM", "lines", "", "")),
            WebCall::read);

    /**
     * One call.
     *
     * @param url    absolute, without a name and password in it; may say {@code {name}} of what was carried, but not as its host
     * @param body   empty where none is sent; may say the same
     * @param follow whether it goes where it is sent on to, at most five times
     * @param takes  what is carried from its answer: the name, and the place where it stands there
     */
    public record Step(
            String method,
            String url,
            String body,
            boolean follow,
            List<Expectation> expectations,
            Map<String, String> takes) {
        public Step {
            if (!METHODS.contains(method))
                throw new IllegalArgumentException("the method is one of " + String.join(", ", METHODS));
            uri(url);
            if (body.length() > LONGEST_BODY)
                throw new IllegalArgumentException("a body has at most 65,536 characters");
            expectations = List.copyOf(expectations);
            takes = Map.copyOf(takes);
            takes.values().forEach(AnswerPath::of);
        }

        public String host() {
            var uri = uri(url);
            return Limits.host(
                    uri.getHost(),
                    uri.getPort() >= 0 ? uri.getPort() : uri.getScheme().equals("https") ? 443 : 80);
        }

        String words() {
            var verb = method.equals("GET") ? "call " : "send " + method + " to ";
            var first = expectations.stream()
                    .filter(one -> one instanceof Expectation.Code || one instanceof Expectation.Within)
                    .map(Expectation::words)
                    .collect(Collectors.joining(" "));
            var with = expectations.stream()
                    .filter(one -> !(one instanceof Expectation.Code || one instanceof Expectation.Within))
                    .map(Expectation::words)
                    .toList();
            return verb + url + " and expect " + first + (with.isEmpty() ? "" : " with " + String.join(" and ", with));
        }

        /** What stands at the places of an answer that are carried on; without those where nothing stands. */
        public Map<String, String> taken(Answer answer) {
            var taken = new LinkedHashMap<String, String>();
            takes.forEach((name, path) -> {
                try {
                    var found = AnswerPath.of(path).in(answer.body());
                    if (found != null) taken.put(name, found);
                } catch (IllegalArgumentException unreadable) {
                    // an answer of another sort has nothing there
                }
            });
            return taken;
        }

        private static URI uri(String url) {
            try {
                var uri = new URI(CARRIED.matcher(url).replaceAll("carried"));
                if (!Set.of("http", "https").contains(String.valueOf(uri.getScheme())) || uri.getHost() == null)
                    throw new IllegalArgumentException("\"" + url + "\" must be http://host:port/… or https://host/…");
                if (CARRIED.matcher(url.replaceFirst("^(https?://[^/?#]*).*$", "$1"))
                        .find())
                    throw new IllegalArgumentException(
                            "the host of an address stands there as it is, nothing is carried into it");
                if (uri.getUserInfo() != null)
                    throw new IllegalArgumentException(
                            "no name and password stand in an address; use a log-in or a header");
                return uri;
            } catch (URISyntaxException bad) {
                throw new IllegalArgumentException("\"" + url + "\" is not an address", bad);
            }
        }
    }

    public WebCall {
        steps = List.copyOf(steps);
        if (steps.isEmpty() || steps.size() > MOST_STEPS)
            throw new IllegalArgumentException("a web call has 1 to 10 steps");
        Limits.bearable(patience);
        if (!proxy.isEmpty()) proxied(proxy);
        if (!trust.isEmpty() && !trust.contains("-----BEGIN CERTIFICATE-----"))
            throw new IllegalArgumentException(
                    "believed certificates are written in PEM, from -----BEGIN CERTIFICATE----- on");
        var known = new ArrayList<String>();
        for (var step : steps) {
            var said = CARRIED.matcher(step.url() + "\n" + step.body());
            while (said.find())
                if (!known.contains(said.group(1)) && step.url().contains(said.group()))
                    throw new IllegalArgumentException(
                            "nothing is carried as {%s} by an earlier step".formatted(said.group(1)));
            known.addAll(step.takes().keySet());
        }
    }

    private static String proxied(String proxy) {
        if (!proxy.matches(".+:\\d{1,5}")) throw new IllegalArgumentException("a proxy is written host:port");
        int colon = proxy.lastIndexOf(':');
        return Limits.host(proxy.substring(0, colon), Integer.parseInt(proxy.substring(colon + 1)));
    }

    private static WebCall read(Fields fields) {
        var steps = new ArrayList<Step>();
        for (int n = 1; n <= MOST_STEPS; n++) {
            var end = n == 1 ? "" : "" + n;
            if (n > 1 && !fields.has("url" + end)) continue;
            var step = step(fields, end);
            if (step != null) steps.add(step);
        }
        if (steps.isEmpty()) steps.add(new Step("GET", "http://none", "", false, List.of(), Map.of()));
        return new WebCall(steps, fields.span("patience"), fields.text("proxy"), fields.text("trust"));
    }

    /** Whether each step has a field of its own by this name, with its number behind it from the second step on. */
    public static boolean isOfEachStep(String name) {
        return OF_A_STEP.contains(name);
    }

    /** Whether a field is one of a further step that there is. */
    static boolean isOfAStep(String name, Map<String, String> fields) {
        var number = name.replaceFirst("^\\D+", "");
        return number.matches("[2-9]|10")
                && OF_A_STEP.contains(name.substring(0, name.length() - number.length()))
                && !fields.getOrDefault("url" + number, "").isBlank();
    }

    private static @org.jspecify.annotations.Nullable Step step(Fields fields, String end) {
        var expectations = new ArrayList<Expectation>();
        var codes = fields.has("codes" + end) ? "codes" + end : "codes";
        expectations.add(fields.read(codes, Expectation.Code::of, Expectation.Code.of("200")));
        if (fields.has("within" + end)) expectations.add(new Expectation.Within(fields.span("within" + end)));
        expectations.addAll(fields.read("expected" + end, Expectation::read, List.of()));
        var takes = fields.read("takes" + end, WebCall::takes, Map.<String, String>of());
        var method = fields.has("method" + end) ? fields.text("method" + end) : "GET";
        return fields.read(
                "url" + end,
                url -> new Step(
                        method, url, fields.text("body" + end), fields.has("follow" + end), expectations, takes),
                null);
    }

    /** Reads {@code token from $.token}, a line each. */
    private static Map<String, String> takes(String lines) {
        var takes = new LinkedHashMap<String, String>();
        for (var line :
                lines.lines().map(String::strip).filter(it -> !it.isEmpty()).toList()) {
            var part = line.split("\\s+from\\s+", 2);
            if (part.length < 2 || !part[0].matches("[a-z][a-zA-Z0-9]{0,30}"))
                throw new IllegalArgumentException("\"" + line + "\" carries nothing; write it as token from $.token");
            takes.put(part[0], part[1].strip());
        }
        return takes;
    }

    /** A text with what was carried filled in; what was not stays as it is. */
    public static String filled(String text, Map<String, String> carried) {
        return CARRIED.matcher(text)
                .replaceAll(hole ->
                        java.util.regex.Matcher.quoteReplacement(carried.getOrDefault(hole.group(1), hole.group())));
    }

    @Override
    public List<String> hosts() {
        var hosts = new ArrayList<>(steps.stream().map(Step::host).distinct().toList());
        if (!proxy.isEmpty()) hosts.add(proxied(proxy));
        return hosts;
    }

    @Override
    public String words() {
        return steps.stream().map(Step::words).collect(Collectors.joining(", then "))
                + (proxy.isEmpty() ? "" : ", through " + proxy);
    }
}
