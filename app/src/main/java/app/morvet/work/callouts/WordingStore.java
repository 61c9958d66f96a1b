package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.Wording;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** How people are told of a case: as somebody worded it for cases so bad, else for all, else in Morvet's own words. */
@Repository
class WordingStore {
    /** For cases of which nothing else is said. */
    static final String ANY = "any";

    static final List<String> FOR = Stream.concat(
                    Stream.of(ANY),
                    Stream.of(Severity.CRITICAL, Severity.WARNING, Severity.NOTICE)
                            .map(Severity::word))
            .toList();

    private static final int LONGEST_SUBJECT = 300;

    static final Worded OWN = new Worded(
            ANY,
            new Wording("{told.as}{case.headline} (case {case.number})"),
            new Wording(
                    """
                    {told.why}

                    {case.headline}.

                    {case.facts}

                    Times are in {zone}.

                    {case.curve}

                    {case.explains}

                    What to do:
                    {case.fix}

                    Everything about it: {case.link}
                    """),
            0);

    /** @param version 0 where these are Morvet's own words */
    record Worded(String of, Wording subject, Wording body, int version) {}

    private final JdbcClient jdbc;
    private final Audit audit;

    WordingStore(JdbcClient jdbc, Audit audit) {
        this.jdbc = jdbc;
        this.audit = audit;
    }

    /** What somebody worded, by what for. */
    Optional<Worded> find(String of) {
        return jdbc.sql("select severity, subject, body, version from call_out_wording where severity = :of")
                .param("of", of)
                .query((row, number) -> new Worded(
                        row.getString("severity"),
                        new Wording(row.getString("subject")),
                        new Wording(row.getString("body")),
                        row.getInt("version")))
                .optional();
    }

    /** What cannot be used any more keeps nobody from being told. */
    Worded inForce(Severity severity) {
        try {
            return find(severity.word()).or(() -> find(ANY)).orElse(OWN);
        } catch (Wording.Wrong wrong) {
            return OWN;
        }
    }

    /**
     * @param version 0 where nobody has worded it yet
     * @throws IllegalArgumentException saying what cannot be used and where
     * @throws Overtaken                where somebody else was faster
     */
    @Transactional
    void keep(String of, String subject, String body, int version, Person by) {
        var worded = worded(of, subject, body, version);
        var before = find(of);
        int changed = version == 0
                ? jdbc.sql(
                                """
                                insert into call_out_wording (severity, subject, body) values (:of, :subject, :body)
                                    on conflict do nothing""")
                        .param("of", of)
                        .param("subject", worded.subject().text())
                        .param("body", worded.body().text())
                        .update()
                : jdbc.sql(
                                """
                                update call_out_wording set subject = :subject, body = :body, version = version + 1
                                 where severity = :of and version = :version""")
                        .param("of", of)
                        .param("subject", worded.subject().text())
                        .param("body", worded.body().text())
                        .param("version", version)
                        .update();
        if (changed == 0) throw new Overtaken();
        audit.record(
                by,
                "wording changed",
                "words of call-outs, " + of,
                before.map(this::words).orElse(null),
                words(worded));
    }

    static final class Overtaken extends RuntimeException {
        private static final long serialVersionUID = 1;

        Overtaken() {
            super("Somebody else changed these words meanwhile. Yours are still here; nothing was saved.");
        }
    }

    /** @throws IllegalArgumentException saying what cannot be used and where */
    static Worded worded(String of, String subject, String body, int version) {
        var about = part("The subject", subject);
        if (about.text().isBlank()
                || about.text().length() > LONGEST_SUBJECT
                || about.text().contains("\n"))
            throw new IllegalArgumentException(
                    "The subject is one line of at most %d characters.".formatted(LONGEST_SUBJECT));
        var words = part("The text", body);
        if (words.text().isBlank()) throw new IllegalArgumentException("The text says something.");
        return new Worded(of, about, words, version);
    }

    private static Wording part(String which, String text) {
        try {
            return new Wording(text.strip());
        } catch (Wording.Wrong wrong) {
            throw new IllegalArgumentException(
                    which + ", l" + String.valueOf(wrong.getMessage()).substring(1));
        }
    }

    private String words(Worded one) {
        return one.subject().text() + "\n" + one.body().text();
    }

    /** Morvet's own words hold again, or those for any. */
    @Transactional
    void drop(String of, Person by) {
        var before = find(of);
        if (before.isEmpty()) return;
        jdbc.sql("delete from call_out_wording where severity = :of")
                .param("of", of)
                .update();
        audit.record(by, "wording taken back", "words of call-outs, " + of, words(before.get()), null);
    }
}
