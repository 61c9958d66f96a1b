package app.morvet.work.channels;

import app.morvet.core.callouts.CallTemplate;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.connections.Ask;
import app.morvet.ground.connections.Calls;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.ConnectionSort;
import app.morvet.ground.connections.Unanswered;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * Text messages by a gateway that takes web calls; all of it is settings. Each message bears an {@code Idempotency-Key}, so that a gateway
 * that keeps keys sends none twice.
 */
@Component
public class TextGateway implements ConnectionSort {
    public static final String SORT = "text";
    static final String PATH = "path";
    static final String TEMPLATE = "template";
    static final Set<String> VARIABLES = Set.of("to", "text", "key");

    private final Calls calls;
    private final People people;

    TextGateway(Calls calls, People people) {
        this.calls = calls;
        this.people = people;
    }

    /**
     * @param to  a telephone number
     * @param key the same for each try of one message
     */
    public void send(Connection gateway, String to, String text, String key) throws Unanswered, InterruptedException {
        calls.ask(gateway, ask("text message", gateway, to, text, key));
    }

    private static Ask ask(String what, Connection gateway, String to, String text, String key) {
        var template = CallTemplate.parse(gateway.get(TEMPLATE), VARIABLES);
        var body = template.fill(Map.of("to", to, "text", text, "key", key));
        return new Ask(what, key, gateway.get(PATH), body, "POST", template.type(), Signature.of(gateway, body));
    }

    @Override
    public String sort() {
        return SORT;
    }

    @Override
    public Ask trial(Connection connection) {
        throw new IllegalArgumentException("a text message goes to somebody");
    }

    @Override
    public Ask trial(Connection connection, Person by) {
        var phone = people.card(by.id()).map(People.Card::phone).orElse("");
        if (phone.isEmpty())
            throw new IllegalArgumentException(
                    "it would be sent to you, and you have no telephone number yet: your name, above, leads to where it stands");
        return ask("tried", connection, phone, "Morvet can send you text messages.", "try-" + System.nanoTime());
    }

    @Override
    public String reads(Connection connection, String answer) {
        return "it was taken; look at your telephone.";
    }
}
