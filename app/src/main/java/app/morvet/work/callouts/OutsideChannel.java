package app.morvet.work.callouts;

import app.morvet.core.callouts.Way;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.connections.Unanswered;
import app.morvet.ground.estate.Estate;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.channels.Outside;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What is outside: a chat, a paging service, a file, a system log. What is said later of a case changes there what was said first. */
@Component
class OutsideChannel implements Channel {
    private final Map<String, Outside> kinds;
    private final Connections connections;
    private final DeliveryStore store;
    private final CaseBook cases;
    private final CaseOwners owners;
    private final Estate estate;
    private final MorvetSettings settings;

    OutsideChannel(
            List<Outside> kinds,
            Connections connections,
            DeliveryStore store,
            CaseBook cases,
            CaseOwners owners,
            Estate estate,
            MorvetSettings settings) {
        this.kinds = kinds.stream().collect(Collectors.toMap(Outside::kind, Function.identity()));
        this.connections = connections;
        this.store = store;
        this.cases = cases;
        this.owners = owners;
        this.estate = estate;
        this.settings = settings;
    }

    @Override
    public Set<Way> ways() {
        return kinds.values().stream().map(Outside::way).collect(Collectors.toSet());
    }

    @Override
    public String send(Delivery delivery, List<Delivery> more, Instant at) throws Undelivered, InterruptedException {
        long id = Objects.requireNonNull(delivery.to().hop().connection());
        var to = connections.byId(id).orElseThrow(() -> new Undelivered("what was to be called is gone", true));
        try {
            return kinds.get(to.sort()).send(to, values(delivery), delivery.id().toString(), known(delivery, id));
        } catch (Unanswered none) {
            throw new Undelivered(none);
        } catch (IllegalArgumentException wrongSettings) {
            throw new Undelivered(String.valueOf(wrongSettings.getMessage()), true);
        }
    }

    /** What the case is called there, from what was said of it before; empty where nothing was. */
    private String known(Delivery delivery, long connection) {
        var caseId = delivery.caseId();
        if (caseId == null) return "";
        return store.ofCase(caseId).stream()
                .filter(one -> !one.outsideId().isEmpty())
                .filter(one -> Long.valueOf(connection).equals(one.to().hop().connection()))
                .map(Delivery::outsideId)
                .findFirst()
                .orElse("");
    }

    private Map<String, String> values(Delivery delivery) {
        var values = new HashMap<String, String>();
        values.put("title", delivery.subject());
        values.put("text", delivery.body());
        values.put("state", delivery.about() == Delivery.About.OVER ? "over" : "open");
        values.put("test", "" + (delivery.about() == Delivery.About.TEST));
        if (delivery.of() instanceof Delivery.Of.Vendor(long component))
            values.put("component", estate.component(component).name());
        var caseId = delivery.caseId();
        var one = caseId == null ? null : cases.find(caseId).orElse(null);
        if (one == null) return values;
        var subject = estate.component(one.component());
        values.put("severity", one.severity().word());
        values.put("case", "" + one.id());
        values.put("component", subject.name());
        values.put(
                "application",
                estate.applicationOf(subject).map(Estate.Application::name).orElse(""));
        values.put("team", owners.of(one).map(Estate.Team::name).orElse(""));
        values.put("link", settings.link("/cases/" + one.id()));
        return values;
    }
}
