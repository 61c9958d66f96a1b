package app.morvet.alerting.windows;

import app.morvet.core.batch.Job;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.sources.batch.JobFacts;
import app.morvet.sources.batch.JobWindows;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.context.annotation.Lazy;
import org.springframework.stereotype.Component;

/** The windows in which no start of a job is expected, as the plan of a night asks for them. */
@Component
class JobsInWindows implements JobWindows {
    private final Windows windows;
    private final JobFacts facts;

    JobsInWindows(@Lazy Windows windows, JobFacts facts) {
        this.windows = windows;
        this.facts = facts;
    }

    @Override
    public Within within(Instant from, Instant to) {
        var spans = new LinkedHashMap<MaintenanceWindow, List<Plan.Span>>();
        for (var one : windows.all()) {
            var window = one.window();
            if (window.jobs() == MaintenanceWindow.Jobs.AS_EVER) continue;
            var some = window.plan().occurrences(from, to).stream()
                    .map(Plan.Occurrence::span)
                    .toList();
            if (!some.isEmpty()) spans.put(window, some);
        }
        return new Found(spans);
    }

    private final class Found implements Within {
        private final Map<MaintenanceWindow, List<Plan.Span>> spans;
        private final Map<String, List<InWindow>> byJob = new HashMap<>();

        Found(Map<MaintenanceWindow, List<Plan.Span>> spans) {
            this.spans = spans;
        }

        @Override
        public List<InWindow> of(Job job) {
            if (spans.isEmpty()) return List.of();
            return byJob.computeIfAbsent(job.key(), key -> {
                var of = facts.of(job);
                return spans.entrySet().stream()
                        .filter(one -> one.getKey().scope().takes(of))
                        .flatMap(one -> one.getValue().stream()
                                .map(span -> new InWindow(one.getKey().name(), span)))
                        .toList();
            });
        }
    }
}
