package app.morvet.views.nights;

import app.morvet.ground.page.Coming;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.Nights;
import app.morvet.sources.batch.StoredJob;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** The deadlines that are coming, with how likely each is made. */
@Component
public class NightsAhead implements Coming {
    /**
     * A deadline.
     *
     * @param mark   how bad what is found about it is, by the guards over it
     * @param makes  how likely it is made, from 0 to 1
     */
    public record Due(long component, String job, String key, Instant by, Instant likely, double makes, String mark) {}

    private final Nights nights;
    private final JobBook book;
    private final JobStands stands;
    private final Times times;

    NightsAhead(Nights nights, JobBook book, JobStands stands, Times times) {
        this.nights = nights;
        this.book = book;
        this.stands = stands;
        this.times = times;
    }

    /** In a half-open span, as the night stands. */
    public List<Due> due(Instant from, Instant to) {
        var standing = nights.now();
        Map<String, String> risks = new HashMap<>(stands.of(standing).risks());
        var due = new ArrayList<Due>();
        for (var ahead : standing.forecast().ahead()) {
            var by = ahead.occurrence().deadline();
            var job = standing.jobs().get(ahead.occurrence().job().key());
            if (by == null || job == null || by.isBefore(from) || !by.isBefore(to)) continue;
            due.add(new Due(
                    job.component().id(),
                    job.component().name(),
                    job.key(),
                    by,
                    ahead.end().likely(),
                    ahead.makes(),
                    risks.getOrDefault(job.key(), "steady")));
        }
        return due;
    }

    /** Those of jobs on some components, and of all that wait for them; in order of time. */
    public List<Due> dueBehind(Collection<Long> components, Instant from, Instant to) {
        var keys = book.all().stream()
                .filter(one -> components.contains(one.component().id()))
                .map(StoredJob::key)
                .toList();
        if (keys.isEmpty()) return List.of();
        var behind = book.graph().behind(keys);
        return due(from, to).stream()
                .filter(one -> behind.contains(one.key()))
                .sorted(Comparator.comparing(Due::by))
                .toList();
    }

    @Override
    public List<Item> coming(Instant from, Instant to) {
        return due(from, to).stream()
                .map(one -> new Item(
                        one.by(),
                        one.mark(),
                        "%s is due, likely done %s: %s to make it"
                                .formatted(one.job(), times.of(one.likely()), NightController.percent(one.makes())),
                        "/batch/jobs/" + one.key()))
                .toList();
    }
}
