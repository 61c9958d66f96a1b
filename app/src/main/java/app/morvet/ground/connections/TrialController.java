package app.morvet.ground.connections;

import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.page.Times;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.server.ResponseStatusException;

/** Setup, of every connection: how its last calls went, and one made now to see whether it works. */
@Controller
class TrialController {
    private static final int LONGEST = 4000;

    record CallRow(String at, String what, boolean answered, String words, String took) {}

    /**
     * @param request  as it went out, without what is secret
     * @param answer   as it came, cut where it is long; empty where none came
     * @param read     what Morvet reads from it, or why it cannot
     * @param answered whether an answer came that Morvet can read
     */
    record Trial(String request, String answer, String read, boolean answered) {}

    private final Connections connections;
    private final Calls calls;
    private final Times times;
    private final Map<String, ConnectionSort> sorts;

    TrialController(Connections connections, Calls calls, Times times, List<ConnectionSort> sorts) {
        this.connections = connections;
        this.calls = calls;
        this.times = times;
        this.sorts = sorts.stream().collect(Collectors.toMap(ConnectionSort::sort, Function.identity()));
    }

    @GetMapping("/setup/connections/{id:\\d{1,18}}/calls")
    String lastCalls(@PathVariable long id, Model model) {
        return page(find(id), null, model);
    }

    @PostMapping("/setup/connections/{id:\\d{1,18}}/try")
    String tried(@PathVariable long id, @AuthenticationPrincipal Person by, Model model) throws InterruptedException {
        var one = find(id);
        var sort = sorts.get(one.sort());
        return page(one, sort == null ? null : tried(one, sort, by), model);
    }

    private Connection find(long id) {
        return connections
                .byId(id)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no connection " + id + "."));
    }

    private Trial tried(Connection one, ConnectionSort sort, Person by) throws InterruptedException {
        Ask ask;
        try {
            ask = sort.trial(one, by);
        } catch (IllegalArgumentException cannot) {
            return new Trial("", "", Sentence.of(cannot), false);
        }
        try {
            var answer = calls.send(one, ask);
            var shown = "%d%n%s".formatted(answer.status(), answer.body());
            var cut = shown.length() > LONGEST ? shown.substring(0, LONGEST) + "…" : shown;
            boolean well = answer.status() >= 200 && answer.status() < 300;
            if (!well) return new Trial(words(one, ask), cut, "It answers, but not with success.", false);
            try {
                return new Trial(words(one, ask), cut, "Morvet reads: " + sort.reads(one, answer.body()), true);
            } catch (IllegalArgumentException unreadable) {
                return new Trial(words(one, ask), cut, "Morvet cannot read it: " + unreadable.getMessage(), false);
            }
        } catch (Unanswered none) {
            return new Trial(words(one, ask), "", none.words() + ".", false);
        }
    }

    private static String words(Connection one, Ask ask) {
        var text = new StringBuilder(ask.method())
                .append(' ')
                .append(one.address(ask.path()))
                .append('\n');
        if (!ask.key().isEmpty())
            text.append("Idempotency-Key: ").append(ask.key()).append('\n');
        text.append(SecretHeaders.covered(one.headers()).replace(SecretHeaders.KEPT, "…"));
        if (!ask.body().isEmpty()) text.append("\n\n").append(ask.body());
        return text.toString().strip();
    }

    private String page(Connection one, @Nullable Trial trial, Model model) {
        model.addAttribute("connection", one.id());
        model.addAttribute("trial", trial);
        model.addAttribute(
                "calls",
                calls.last(one).stream()
                        .map(call -> new CallRow(
                                times.exact(call.at()),
                                call.what(),
                                call.answered(),
                                call.words(),
                                "%,d ms".formatted(call.took().toMillis())))
                        .toList());
        return "connection-parts :: calls";
    }
}
