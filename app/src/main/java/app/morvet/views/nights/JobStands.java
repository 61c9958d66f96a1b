package app.morvet.views.nights;

import app.morvet.core.alert.Severity;
import app.morvet.core.batch.Occurrence;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.batch.RunWatch;
import app.morvet.ground.page.Times;
import app.morvet.rules.runguards.RunGuards;
import app.morvet.sources.batch.Nights;
import app.morvet.sources.batch.StoredJob;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** How it stands with jobs, in a mark and a few words: by what is found wrong with them, or else by their last start. */
@Component
class JobStands {
    record Stand(String mark, String words) {}

    private final RunGuards guards;
    private final Times times;

    JobStands(RunGuards guards, Times times) {
        this.guards = guards;
        this.times = times;
    }

    Look of(Nights.View standing) {
        return new Look(standing, guards.severities(), times);
    }

    /** A look at the night as it stands. */
    static final class Look {
        private final Nights.View standing;
        private final RunGuards.Severities severities;
        private final Times times;
        private final Map<String, RunWatch.Finding> worst = new HashMap<>();

        private Look(Nights.View standing, RunGuards.Severities severities, Times times) {
            this.standing = standing;
            this.severities = severities;
            this.times = times;
            var worseFirst = Comparator.comparing((RunWatch.Finding one) -> Marks.rank(mark(one)));
            for (var one : standing.findings())
                worst.merge(one.job(), one, (had, other) -> worseFirst.compare(other, had) < 0 ? other : had);
        }

        /** As bad as the guards over it say; none stands over what is steady. */
        String mark(RunWatch.Finding finding) {
            var job = standing.jobs().get(finding.job());
            return job == null
                    ? "steady"
                    : severities.of(finding, job.job()).map(Severity::word).orElse("steady");
        }

        Stand stand(StoredJob job) {
            var found = worst.get(job.key());
            if (found != null) return new Stand(mark(found), found.trouble().state());
            var now = current(job);
            return now == null
                    ? new Stand("nodata", "no start in this night")
                    : new Stand(Marks.of(now.outcome()), words(now));
        }

        /** What is over says when it was: a job may be late of last night's end long after it. */
        private String words(Occurrence one) {
            var last = one.last();
            return last == null || last.ended() == null
                    ? one.outcome().words()
                    : one.outcome().words() + ", ended " + times.near(last.ended());
        }

        /** The last start that has come, or else the next. */
        @Nullable
        Occurrence current(StoredJob job) {
            Occurrence found = null;
            for (var one : standing.night().of(job.key())) {
                if (found == null || !one.begins().isAfter(standing.madeAt())) found = one;
            }
            return found;
        }

        /** When the next start of this night is likely, for a job that only waits for others; null where none is to come. */
        @Nullable
        Instant likelyStart(StoredJob job) {
            return standing.night().of(job.key()).stream()
                    .filter(one -> one.runs().isEmpty())
                    .map(standing.forecast()::of)
                    .filter(Objects::nonNull)
                    .map(ahead -> ahead.start().likely())
                    .findFirst()
                    .orElse(null);
        }

        /** Jobs with something found about them come first, the worst of them first. */
        Comparator<StoredJob> troubledFirst() {
            return Comparator.comparing(job -> {
                var found = worst.get(job.key());
                return found == null ? Integer.MAX_VALUE : Marks.rank(mark(found));
            });
        }

        /** The marks of deadlines at risk, by job. */
        Map<String, String> risks() {
            var marks = new HashMap<String, String>();
            for (var one : standing.findings())
                if (one.trouble() == RunTrouble.DEADLINE_AT_RISK) marks.put(one.job(), mark(one));
            return marks;
        }
    }
}
