package app.morvet.rules.runguards;

import app.morvet.core.alert.Severity;
import app.morvet.core.batch.Job;
import app.morvet.core.batch.RunGuard;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.batch.RunWatch;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Remembered;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobFacts;
import app.morvet.sources.batch.RiskLimits;
import app.morvet.sources.batch.StoredJob;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.ToIntFunction;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The standing guards over runs: looked up, put into words, and changed. */
@Service
public class RunGuards implements RiskLimits {
    /**
     * @param owner   id of the team that owns what it finds, in place of the application's; or null
     * @param fixNote Markdown; the job's own comes before it
     */
    public record Stored(
            long id,
            String name,
            RunGuard rule,
            @Nullable Long owner,
            String fixNote,
            boolean active,
            int version,
            boolean deleted) {}

    private final RunGuardStore store;
    private final Estate estate;
    private final JobFacts facts;
    private final Audit audit;
    private final ApplicationEventPublisher events;
    private final Remembered<List<Stored>> all;

    RunGuards(
            RunGuardStore store,
            Estate estate,
            JobFacts facts,
            Audit audit,
            ApplicationEventPublisher events,
            Notices notices) {
        this.store = store;
        this.estate = estate;
        this.facts = facts;
        this.audit = audit;
        this.events = events;
        this.all = new Remembered<>(store::all, any -> true);
        notices.hearOthers(JobBook.CHANGED, all::forget);
    }

    @EventListener
    void on(JobBook.JobsChanged changed) {
        all.forget();
    }

    public List<Stored> all() {
        return all.get();
    }

    /** Deleted ones too. */
    public Stored byId(long id) {
        return store.byId(id)
                .orElseThrow(() -> new IllegalArgumentException("There is no guard over runs " + id + "."));
    }

    public Optional<Stored> find(long id) {
        return store.byId(id).filter(one -> !one.deleted());
    }

    public String sentence(RunGuard rule) {
        return rule.sentence(estate::nameOf);
    }

    public Optional<Estate.Team> owner(long id) {
        return store.byId(id).map(Stored::owner).flatMap(estate::team);
    }

    boolean takes(Stored guard, Job job) {
        return guard.active() && guard.rule().scope().takes(facts.of(job));
    }

    /** The chance in percent under which a job's deadline is at risk by any guard; as usual where none stands over it. */
    @Override
    public ToIntFunction<Job> limits() {
        var over = all().stream()
                .filter(one -> one.active() && one.rule().trouble() == RunTrouble.DEADLINE_AT_RISK)
                .toList();
        return job -> over.stream()
                .filter(one -> takes(one, job))
                .mapToInt(one -> one.rule().below())
                .max()
                .orElse(RunGuard.USUAL_BELOW);
    }

    /** How bad findings are by the guards that stand over their jobs. */
    public interface Severities {
        /** Empty where no guard stands over it. */
        Optional<Severity> of(RunWatch.Finding finding, Job job);
    }

    public Severities severities() {
        var all = all();
        // Whether each is up is not known here: one whose chance has risen a little over its limit counts where no
        // other does.
        return (finding, job) -> {
            var over = all.stream().filter(one -> takes(one, job)).toList();
            return worst(over, finding, false).or(() -> worst(over, finding, true));
        };
    }

    private static Optional<Severity> worst(List<Stored> over, RunWatch.Finding finding, boolean up) {
        return over.stream()
                .filter(one -> one.rule().calls(finding, up))
                .map(one -> RunWatch.severity(one.rule(), finding))
                .max(Comparator.naturalOrder());
    }

    /** The jobs that a rule would stand over, of those given. */
    public List<StoredJob> over(RunGuard rule, List<StoredJob> jobs) {
        return jobs.stream()
                .filter(one -> rule.scope().takes(facts.of(one.job())))
                .toList();
    }

    @Transactional
    public long keep(Stored guard, Person by) {
        var before = guard.id() == 0 ? null : byId(guard.id());
        long id = store.keep(guard);
        if (id == 0)
            throw new JobBook.Overtaken(
                    "Somebody else changed this guard while you were editing it. Nothing was saved; your sentence stands below.");
        audit.record(
                by,
                before == null ? "guard made" : "guard changed",
                "guard over runs " + id,
                before == null ? null : words(before),
                words(byId(id)));
        events.publishEvent(new JobBook.JobsChanged());
        return id;
    }

    /** Takes a guard away; it stays in the record, and its alerts end. */
    @Transactional
    public void delete(long id, int version, Person by) {
        var before = byId(id);
        if (!store.delete(id, version))
            throw new JobBook.Overtaken("Somebody else changed this guard in between. Nothing was deleted.");
        audit.record(by, "guard deleted", "guard over runs " + id, words(before), null);
        events.publishEvent(new JobBook.JobsChanged());
    }

    /** For what is set up by the application itself. */
    public long set(String name, RunGuard rule, String fixNote) {
        long id = store.keep(new Stored(0, name, rule, null, fixNote, true, 0, false));
        all.forget();
        return id;
    }

    private String words(Stored guard) {
        return guard.name() + (guard.active() ? ": " : " (off): ") + sentence(guard.rule());
    }
}
