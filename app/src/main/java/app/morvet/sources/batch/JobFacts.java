package app.morvet.sources.batch;

import app.morvet.core.batch.Job;
import app.morvet.core.estate.Scope;
import app.morvet.ground.estate.Estate;
import java.util.Set;
import org.springframework.stereotype.Component;

/** What scopes ask of a job: what they ask of its component, and its chain. */
@Component
public class JobFacts {
    private final Estate estate;

    JobFacts(Estate estate) {
        this.estate = estate;
    }

    public Scope.Facts of(Job job) {
        return estate.byKey(job.key())
                .map(estate::factsOf)
                .orElseGet(() -> new Scope.Facts(job.key(), job.key(), Estate.JOB, "", 0, "", Set.of(), "", null))
                .ofChain(job.chain());
    }
}
