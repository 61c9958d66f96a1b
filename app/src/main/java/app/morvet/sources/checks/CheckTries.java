package app.morvet.sources.checks;

import app.morvet.core.checks.Look;
import app.morvet.core.checks.Result;
import app.morvet.sources.outposts.Outpost;
import app.morvet.sources.outposts.OutpostPart;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Checks that are tried by hand from an outpost: asked with its next answer, and told with the word after that. */
@Component
class CheckTries implements OutpostPart {
    /** Somebody waits for it; later nobody does. */
    static final Duration WAITED_FOR = Duration.ofSeconds(40);

    private final CheckTryStore store;
    private final JsonMapper json;
    private final Clock clock;

    CheckTries(CheckTryStore store, JsonMapper json, Clock clock) {
        this.store = store;
        this.json = json;
        this.clock = clock;
    }

    @Override
    public String name() {
        return "tries";
    }

    /** @return its number, by which is asked what came of it */
    long ask(long outpost, Look look, StoredCheck.Secrets secrets) {
        var now = clock.instant();
        return store.add(outpost, look, secrets, now, now.minus(Duration.ofHours(1)));
    }

    Optional<CheckTryStore.Try> find(long id) {
        return store.byId(id);
    }

    boolean waits(CheckTryStore.Try one) {
        return one.result() == null && one.askedAt().plus(WAITED_FOR).isAfter(clock.instant());
    }

    Result result(String told) {
        return CheckPart.result(json.readTree(told));
    }

    @Override
    public List<ObjectNode> now(Outpost outpost, Instant now) {
        return store.open(outpost.id(), now.minus(WAITED_FOR)).stream()
                .map(one -> {
                    var node = json.createObjectNode()
                            .put("id", one.id())
                            .put("kind", one.look().kind().key())
                            .put("headers", one.secrets().headers())
                            .put("logIn", one.secrets().logIn());
                    node.set("fields", json.valueToTree(one.look().fields()));
                    return node;
                })
                .toList();
    }

    @Override
    public void take(Outpost outpost, JsonNode told, Instant now) {
        CheckPart.result(told);
        store.keep(told.path("id").asLong(0), outpost.id(), told.toString().replace("\\u0000", "\uFFFD"));
    }
}
