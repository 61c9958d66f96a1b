package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;

/**
 * A service of the operating system, in a state.
 *
 * @param wanted one of {@link #WORDS}
 */
public record OsService(String name, String wanted, Duration patience) implements Target {
    /** What a service may be in, as states are told. */
    public static final List<String> WORDS = List.of("running", "starting", "stopped", "failed");

    public static final Kind KIND = new Kind(
            "service",
            "service",
            true,
            "look at the service {service} and expect it to be {wanted}",
            List.of(
                    Kind.Field.of("service", "Service, as the system calls it", "wide", "", "ledger-post.service"),
                    Kind.Field.choice("wanted", "State", "running", "stopped")),
            fields -> new OsService(fields.text("service"), fields.text("wanted"), Duration.ofSeconds(10)));

    public OsService {
        if (!name.matches("[A-Za-z0-9][A-Za-z0-9@:._-]{0,199}"))
            throw new IllegalArgumentException("a service is called by letters, digits and @ : . _ -");
        if (!WORDS.contains(wanted)) throw new IllegalArgumentException("a service is " + String.join(", ", WORDS));
    }

    @Override
    public String words() {
        return "look at the service %s and expect it to be %s".formatted(name, wanted);
    }
}
