package app.morvet.work.callouts;

import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.page.Times;
import app.morvet.sources.intake.Door;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.Overtaken;
import app.morvet.work.cases.WorkCase;
import app.morvet.work.channels.Signature;
import app.morvet.work.channels.WebCalls;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Where what was told by a web call is answered from there ({@code POST /api/v1/answers/…}): somebody has taken an item of a paging service,
 * made it quiet, or noted something on it. The item is known by what it is called there, and who it was by their login or mail here.
 */
@RestController
class AnswersApi {
    private static final int LONGEST_BODY = 20_000;
    private static final String WHENCE = "it is the secret of the channel; an admin sets it under Setup, Channels";

    private final Connections connections;
    private final DeliveryStore deliveries;
    private final CaseAnswers answers;
    private final CaseBook cases;
    private final People people;
    private final JsonMapper json;
    private final Times times;

    AnswersApi(
            Connections connections,
            DeliveryStore deliveries,
            CaseAnswers answers,
            CaseBook cases,
            People people,
            JsonMapper json,
            Times times) {
        this.connections = connections;
        this.deliveries = deliveries;
        this.answers = answers;
        this.cases = cases;
        this.people = people;
        this.json = json;
        this.times = times;
    }

    /**
     * @param channel   the key of the connection
     * @param bearer    its secret, of a service that cannot sign
     * @param time      seconds since 1970, of one that can
     * @param signature over the time, a line's end and the body
     */
    @PostMapping("/api/v1/answers/{channel}")
    ResponseEntity<?> answer(
            @PathVariable String channel,
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String bearer,
            @RequestHeader(name = Signature.TIME, defaultValue = "") String time,
            @RequestHeader(name = Signature.NAME, defaultValue = "") String signature,
            @RequestBody(required = false) @Nullable String body) {
        var text = body == null ? "" : body;
        var connection = connections
                .byKey(WebCalls.SORT, channel)
                .filter(one -> isKnown(one, bearer) || Signature.isOf(one, time, text, signature))
                .orElse(null);
        if (connection == null) return Door.unknown(WHENCE);
        try {
            if (text.length() > LONGEST_BODY) throw new IllegalArgumentException("the body is too long");
            var asked = json.readTree(text);
            return done(connection, asked);
        } catch (JacksonException unreadable) {
            return Door.unreadable(unreadable);
        } catch (IllegalArgumentException wrong) {
            return refused(HttpStatus.UNPROCESSABLE_CONTENT, Sentence.of(wrong));
        } catch (Overtaken meanwhile) {
            return refused(HttpStatus.CONFLICT, String.valueOf(meanwhile.getMessage()));
        }
    }

    private static boolean isKnown(Connection one, String bearer) {
        return !one.secret().isEmpty()
                && bearer.startsWith("Bearer ")
                && MessageDigest.isEqual(
                        bearer.substring(7).strip().getBytes(StandardCharsets.UTF_8),
                        one.secret().getBytes(StandardCharsets.UTF_8));
    }

    private ResponseEntity<?> done(Connection connection, JsonNode asked) {
        var id = text(asked, "id");
        var found = id.isEmpty()
                ? Optional.<WorkCase>empty()
                : deliveries.caseCalled(connection.id(), id).flatMap(cases::find);
        if (found.isEmpty())
            return refused(HttpStatus.NOT_FOUND, "There is no case that is called \"%s\" there.".formatted(id));
        var who = who(text(asked, "by"));
        var one = found.get();
        var now = times.now();
        switch (text(asked, "answer")) {
            case "take" -> {
                // Said twice it is so once.
                if (!Long.valueOf(who.id()).equals(one.progress().takenBy())) answers.take(one, who, now);
            }
            case "quiet" -> answers.quiet(one, who, now);
            case "note" -> cases.note(one.id(), who, text(asked, "words"), now);
            default -> throw new IllegalArgumentException("answer is take, quiet or note");
        }
        return ResponseEntity.ok(Map.of("case", one.id(), "by", who.name()));
    }

    private Person who(String by) {
        if (by.isEmpty()) throw new IllegalArgumentException("say by whom, by login or mail");
        return people.cards().stream()
                .filter(one -> one.active()
                        && (one.person().login().equalsIgnoreCase(by)
                                || one.mail().equalsIgnoreCase(by)))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("there is nobody \"%s\" here".formatted(by)))
                .person();
    }

    private static String text(JsonNode asked, String name) {
        var value = asked.path(name);
        return value.isString() ? value.stringValue().strip() : value.isNumber() ? value.asString() : "";
    }

    private static ResponseEntity<ProblemDetail> refused(HttpStatus status, String why) {
        return ResponseEntity.status(status).body(ProblemDetail.forStatusAndDetail(status, why));
    }
}
