package app.morvet.views.links;

import app.morvet.core.estate.LinkTemplate;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Links out of Morvet as they are kept, and as they are filled for a case or a component. */
@Service
public class LinksOut {
    private static final Duration BEFORE = Duration.ofMinutes(15);
    private static final Duration AFTER = Duration.ofMinutes(5);
    private static final Duration LATELY = Duration.ofHours(1);
    private static final int DEEPEST = 20;
    private static final List<String> ABOUTS = List.of("application", "kind", "component", "family");

    /** @param about {@code application}, {@code kind}, {@code component} or {@code family}; {@code subject} is which */
    record Kept(long id, String about, String subject, String name, String template) {}

    /** One that can be followed. */
    public record Link(String name, String address) {}

    private final JdbcClient jdbc;
    private final Estate estate;
    private final Audit audit;
    private final Times times;

    LinksOut(JdbcClient jdbc, Estate estate, Audit audit, Times times) {
        this.jdbc = jdbc;
        this.estate = estate;
        this.audit = audit;
        this.times = times;
    }

    List<Kept> all() {
        return jdbc.sql("select * from link_out order by about, subject, name")
                .query(Kept.class)
                .list();
    }

    /** @throws IllegalArgumentException where it cannot be; says why */
    @Transactional
    public void add(String about, String subject, String name, String template, Person by) {
        set(about, subject, name, template);
        audit.record(by, "link made", about + " " + subject.strip(), null, name.strip() + ": " + template.strip());
    }

    /** The same as it is set up, by nobody. */
    @Transactional
    public void set(String about, String subject, String name, String template) {
        var of = subject.strip();
        check(about, of);
        if (name.isBlank() || name.strip().length() > 80)
            throw new IllegalArgumentException("A link has a name of up to 80 characters.");
        var checked = new LinkTemplate(template);
        int kept = jdbc.sql(
                        """
                        insert into link_out (about, subject, name, template) values (:about, :subject, :name, :template)
                        on conflict do nothing""")
                .param("about", about)
                .param("subject", of)
                .param("name", name.strip())
                .param("template", checked.text())
                .update();
        if (kept == 0)
            throw new IllegalArgumentException(
                    "There is a link \"%s\" of %s %s already.".formatted(name.strip(), about, of));
    }

    private void check(String about, String of) {
        boolean known =
                switch (about) {
                    case "application" -> estate.application(of).isPresent();
                    case "kind" -> Estate.KINDS.contains(of);
                    case "component" -> estate.byKey(of).isPresent();
                    case "family" -> of.matches("\\d{1,18}");
                    default ->
                        throw new IllegalArgumentException("A link is of one of: " + String.join(", ", ABOUTS) + ".");
                };
        if (!known) throw new IllegalArgumentException("There is no %s \"%s\".".formatted(about, of));
    }

    @Transactional
    public void remove(long id, Person by) {
        all().stream().filter(one -> one.id() == id).findFirst().ifPresent(one -> {
            jdbc.sql("delete from link_out where id = :id").param("id", id).update();
            audit.record(
                    by, "link removed", one.about() + " " + one.subject(), one.name() + ": " + one.template(), null);
        });
    }

    /** Those of a case, from a while before its trouble to a while after. */
    List<Link> of(WorkCase one) {
        var facts = facts(estate.component(one.component()));
        facts.put("case", "" + one.id());
        var family = one.isAboutFailures() ? one.scope().family() : null;
        if (family != null) facts.put("family", "" + family);
        var end = one.overSince() == null ? times.now() : one.overSince();
        span(facts, one.firstSeen().minus(BEFORE), end.plus(AFTER));
        return filled(facts);
    }

    /** Those of a component, over the last hour. */
    public List<Link> of(Estate.Component one) {
        var facts = facts(one);
        span(facts, times.now().minus(LATELY), times.now());
        return filled(facts);
    }

    private static void span(Map<String, String> facts, Instant from, Instant to) {
        facts.put("from", from.toString());
        facts.put("to", to.toString());
        facts.put("from.ms", "" + from.toEpochMilli());
        facts.put("to.ms", "" + to.toEpochMilli());
    }

    private Map<String, String> facts(Estate.Component one) {
        var facts = new HashMap<String, String>();
        facts.put("component", one.key());
        facts.put("name", one.name());
        facts.put("kind", one.kind());
        facts.put("host", host(one).key());
        estate.applicationOf(one).ifPresent(it -> {
            facts.put("application", it.key());
            facts.put("environment", it.environment());
        });
        return facts;
    }

    private Estate.Component host(Estate.Component one) {
        var at = one;
        for (int depth = 0; depth < DEEPEST; depth++) {
            var on = at.standsOn();
            if (at.kind().equals("host") || on == null) return at;
            at = estate.component(on);
        }
        return at;
    }

    private List<Link> filled(Map<String, String> facts) {
        return jdbc
                .sql(
                        """
                        select * from link_out
                         where about = 'application' and subject = :application or about = 'kind' and subject = :kind
                            or about = 'component' and subject = :component or about = 'family' and subject = :family
                         order by about, name""")
                .param(
                        "application",
                        Optional.ofNullable(facts.get("application")).orElse(""))
                .param("kind", facts.get("kind"))
                .param("component", facts.get("component"))
                .param("family", Optional.ofNullable(facts.get("family")).orElse(""))
                .query(Kept.class)
                .list()
                .stream()
                .map(one -> new Link(one.name(), new LinkTemplate(one.template()).filled(facts)))
                .toList();
    }
}
