package app.morvet.work.callouts;

import app.morvet.core.callouts.TextMessage;
import app.morvet.core.callouts.Way;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.connections.Unanswered;
import app.morvet.work.channels.TextGateway;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Text messages: their own words where there are, else what a mail says in its subject, and the link. */
@Component
class TextChannel implements Channel {
    private final TextGateway gateway;
    private final Connections connections;
    private final TakeLinks links;
    private final MorvetSettings settings;

    TextChannel(TextGateway gateway, Connections connections, TakeLinks links, MorvetSettings settings) {
        this.gateway = gateway;
        this.connections = connections;
        this.links = links;
        this.settings = settings;
    }

    @Override
    public Set<Way> ways() {
        return Set.of(Way.TEXT);
    }

    /** What is said of the others first: the words of the one may be cut. */
    private static String more(int others) {
        return others == 0 ? "" : "%d cases. ".formatted(others + 1);
    }

    private static String words(Delivery delivery) {
        return delivery.brief().isEmpty() ? delivery.subject() : delivery.brief();
    }

    @Override
    public String send(Delivery delivery, List<Delivery> more, Instant at) throws Undelivered, InterruptedException {
        var by = connections
                .byId(Objects.requireNonNull(delivery.to().hop().connection()))
                .orElseThrow(() -> new Undelivered("the gateway for text messages is gone", true));
        var link = links.of(delivery, at)
                .orElse(delivery.caseId() == null ? "" : settings.link("/cases/" + delivery.caseId()));
        try {
            var text = TextMessage.of(more(more.size()) + words(delivery), link);
            gateway.send(by, delivery.recipient(), text, delivery.id().toString());
        } catch (Unanswered none) {
            throw new Undelivered(none);
        } catch (IllegalArgumentException tooLong) {
            throw new Undelivered(String.valueOf(tooLong.getMessage()), true);
        }
        return "";
    }
}
