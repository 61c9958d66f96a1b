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

    private static final int LONGEST_LINE = 300;

    private static final Wording SUBJECT = new Wording("{told.as}{case.headline} (case {case.number})");

    static final Worded OWN = new Worded(
            ANY,
            SUBJECT,
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

                    What changed before:
                    {case.changed}

                    Everything about it: {case.link}
                    """),
            SUBJECT,
            0);

    /**
     * @param brief   what a text message says
     * @param version 0 where these are Morvet's own words
     */
    record Worded(String of, Wording subject, Wording body, Wording brief, int version) {
        Typed typed() {
            return new Typed(subject.text(), body.text(), brief.text(), version);
        }
    }

    /** Words as they are kept, or as somebody types them: they need not be of use. */
    record Typed(String subject, String body, String brief, int version) {
        /** @throws IllegalArgumentException saying what cannot be used and where */
        Worded worded(String of) {
            var words = part("The text", body);
            if (words.text().isBlank()) throw new IllegalArgumentException("The text says something.");
            return new Worded(of, line("The subject", subject), words, line("The text message", brief), version);
        }

        Typed at(int otherVersion) {
            return new Typed(subject, body, brief, otherVersion);
        }

        private String all() {
            return subject + "\n" + body + "\n" + brief;
        }
    }

    private static Wording line(String which, String text) {
        var line = part(which, text);
        if (line.text().isBlank()
                || line.text().length() > LONGEST_LINE
                || line.text().contains("\n"))
            throw new IllegalArgumentException(
                    "%s is one line of at most %d characters.".formatted(which, LONGEST_LINE));
        return line;
    }

    private static Wording part(String which, String text) {
        try {
            return new Wording(text.strip());
        } catch (Wording.Wrong wrong) {
            throw new IllegalArgumentException(
                    which + ", l" + String.valueOf(wrong.getMessage()).substring(1));
        }
    }

    private final JdbcClient jdbc;
    private final Audit audit;

    WordingStore(JdbcClient jdbc, Audit audit) {
        this.jdbc = jdbc;
        this.audit = audit;
    }

    /** What somebody worded, by what for. */
    Optional<Typed> find(String of) {
        return jdbc.sql("select subject, body, brief, version from call_out_wording where severity = :of")
                .param("of", of)
                .query((row, number) -> new Typed(
                        row.getString("subject"), row.getString("body"), row.getString("brief"), row.getInt("version")))
                .optional();
    }

    /** What cannot be used any more keeps nobody from being told. */
    Worded inForce(Severity severity) {
        try {
            var of = severity.word();
            return find(of).or(() -> find(ANY)).map(one -> one.worded(of)).orElse(OWN);
        } catch (IllegalArgumentException wrong) {
            return OWN;
        }
    }

    /**
     * @param typed with version 0 where nobody has worded it yet
     * @throws IllegalArgumentException saying what cannot be used and where
     * @throws Overtaken                where somebody else was faster
     */
    @Transactional
    void keep(String of, Typed typed, Person by) {
        var words = typed.worded(of).typed();
        var before = find(of);
        int changed = jdbc.sql(
                        words.version() == 0
                                ? """
                                  insert into call_out_wording (severity, subject, body, brief) values (:of, :subject, :body, :brief)
                                      on conflict do nothing"""
                                : """
                                  update call_out_wording set subject = :subject, body = :body, brief = :brief, version = version + 1
                                   where severity = :of and version = :version""")
                .param("of", of)
                .param("subject", words.subject())
                .param("body", words.body())
                .param("brief", words.brief())
                .param("version", words.version())
                .update();
        if (changed == 0) throw new Overtaken();
        audit.record(
                by,
                "wording changed",
                "words of call-outs, " + of,
                before.map(Typed::all).orElse(null),
                words.all());
    }

    static final class Overtaken extends RuntimeException {
        private static final long serialVersionUID = 1;

        Overtaken() {
            super("Somebody else changed these words meanwhile. Yours are still here; nothing was saved.");
        }
    }

    /** Morvet's own words hold again, or those for any. */
    @Transactional
    void drop(String of, Person by) {
        var before = find(of);
        if (before.isEmpty()) return;
        jdbc.sql("delete from call_out_wording where severity = :of")
                .param("of", of)
                .update();
        audit.record(
                by,
                "wording taken back",
                "words of call-outs, " + of,
                before.get().all(),
                null);
    }
}
