package app.morvet.probe;

import app.morvet.core.checks.Answer;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import app.morvet.core.checks.WebCall;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** Calls over HTTP: step by step, each as far as the one before it was as expected. */
final class WebCalling implements Looking<WebCall> {
    private static final int MOST_HOPS = 5;

    private final Permits permits;
    private final Webs webs = new Webs();

    WebCalling(Permits permits) {
        this.permits = permits;
    }

    @Override
    public Class<WebCall> of() {
        return WebCall.class;
    }

    @Override
    public Result at(WebCall target, Around around, Watch watch)
            throws IOException, InterruptedException, GeneralSecurityException {
        var web = webs.of(target.trust(), around.logIn(), target.proxy());
        var verdicts = new ArrayList<Verdict>();
        var carried = new HashMap<String, String>();
        var secretsOf = target.steps().getFirst().url();
        var said = "";
        boolean several = target.steps().size() > 1;
        for (int n = 0; n < target.steps().size(); n++) {
            var step = target.steps().get(n);
            long before = watch.took().toMillis();
            var answer = ask(web, step, around.headers(), carried, secretsOf, watch);
            var alone = new Answer(answer.code(), answer.body(), watch.took().minusMillis(before));
            var begin = several ? "step %d: ".formatted(n + 1) : "";
            for (var one : step.expectations()) {
                var verdict = one.of(alone);
                verdicts.add(Verdict.of(begin + verdict.expected(), verdict.met(), verdict.found()));
            }
            said = several ? "Step %d answered %d.\n%s".formatted(n + 1, answer.code(), answer.body()) : answer.body();
            var taken = step.taken(alone);
            for (var name : step.takes().keySet())
                if (!taken.containsKey(name))
                    verdicts.add(Verdict.of(
                            begin + "a value to carry as " + name,
                            false,
                            "there is nothing at " + step.takes().get(name)));
            carried.putAll(taken);
            // What builds on an answer that is not as expected would only say the same again.
            if (verdicts.stream().anyMatch(one -> !one.met())) break;
        }
        return Result.of(verdicts, watch.took(), said);
    }

    /** One call, followed where it is sent on to. */
    Answer ask(Web web, WebCall.Step step, String headers, Map<String, String> carried, String secretsOf, Watch watch)
            throws IOException, InterruptedException {
        var url = WebCall.filled(step.url(), encoded(carried));
        for (int hop = 0; ; hop++) {
            allow(url);
            var request = HttpRequest.newBuilder();
            // What is secret goes to the host that it is meant for, and nowhere that that sends on to.
            if (sameHost(url, secretsOf)) Headers.into(request, filled(headers, carried));
            boolean first = hop == 0;
            var body = WebCall.filled(step.body(), carried);
            request.method(
                    first ? step.method() : "GET",
                    body.isEmpty() || !first
                            ? HttpRequest.BodyPublishers.noBody()
                            : HttpRequest.BodyPublishers.ofString(body));
            var answer = web.call(request, url, watch.left());
            boolean sentOn = answer.status() / 100 == 3 && !answer.location().isEmpty();
            if (!step.follow() || !sentOn) return new Answer(answer.status(), answer.body(), watch.took());
            if (hop == MOST_HOPS)
                throw new IllegalArgumentException(
                        "it is sent on more than " + MOST_HOPS + " times, at last to " + answer.location());
            url = URI.create(url).resolve(answer.location()).toString();
        }
    }

    private void allow(String url) {
        var uri = URI.create(url);
        boolean web = "http".equals(uri.getScheme()) || "https".equals(uri.getScheme());
        if (!web || uri.getHost() == null || uri.getUserInfo() != null)
            throw new IllegalArgumentException("\"" + url + "\" must be http://host:port or https://host");
        permits.reach(uri.getHost() + ":"
                + (uri.getPort() >= 0 ? uri.getPort() : uri.getScheme().equals("https") ? 443 : 80));
    }

    /** Headers that say what is not carried yet are left out. */
    private static String filled(String headers, Map<String, String> carried) {
        return headers.lines()
                .map(line -> WebCall.filled(line, carried))
                .filter(line -> !line.matches(".*\\{[a-z][a-zA-Z0-9]*}.*"))
                .map(line -> line.replaceAll("[\\r\\n]", ""))
                .collect(Collectors.joining("\n"));
    }

    private static Map<String, String> encoded(Map<String, String> carried) {
        var encoded = new HashMap<String, String>();
        carried.forEach((name, value) -> encoded.put(
                name,
                java.net.URLEncoder.encode(value, java.nio.charset.StandardCharsets.UTF_8)
                        .replace("+", "%20")));
        return encoded;
    }

    private static boolean sameHost(String one, String other) {
        return URI.create(one).getAuthority().equals(other.replaceFirst("^https?://([^/?#]*).*$", "$1"));
    }

    static List<Looking<?>> both(Permits permits) {
        var calling = new WebCalling(permits);
        return List.of(calling, new PageLooking(calling));
    }
}
