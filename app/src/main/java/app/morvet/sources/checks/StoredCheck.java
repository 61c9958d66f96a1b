package app.morvet.sources.checks;

import app.morvet.core.checks.Cadence;
import app.morvet.core.checks.Look;
import app.morvet.ground.base.Sentence;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A check as it stands, without what it keeps secret.
 *
 * @param component of what it is, by its id
 * @param tries     how often it is asked before what came of it counts
 * @param from      the outposts that ask, by their ids; empty where Morvet itself does
 * @param agree     of several that ask, so many must not pass before it counts
 */
record StoredCheck(
        long id,
        String name,
        long component,
        Cadence every,
        int tries,
        Look look,
        List<Long> from,
        int agree,
        boolean active,
        int version,
        @Nullable Last last) {
    /** What came of it last. */
    record Last(Instant at, String state, Duration took, String why) {}

    record Passed(Instant at, String said) {}

    /**
     * What is never shown again.
     *
     * @param headers that are sent with calls over HTTP, one a line
     * @param logIn   of a database the user and, in the next line, the password; of a web call the certificate and key, in PEM
     */
    record Secrets(String headers, String logIn) {
        static final Secrets NONE = new Secrets("", "");
    }

    /** One that is to be asked, with all that asking it takes. */
    record Due(StoredCheck check, Secrets secrets, String memory) {}

    StoredCheck of(long other) {
        return new StoredCheck(id, name, other, every, tries, look, from, agree, active, version, last);
    }

    /** @param names of the outposts that ask */
    String sentence(List<String> names) {
        var whence = names.isEmpty() ? "" : " from " + String.join(", ", names);
        return Sentence.of("%s%s, %s%s%s"
                .formatted(
                        every.words(),
                        whence,
                        look.words(),
                        tries == 1 ? "" : "; of " + tries + " tries one is enough",
                        agree == 1 ? "" : "; it counts when " + agree + " of them do not pass"));
    }
}
