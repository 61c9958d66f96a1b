package app.morvet.views.nights;

import app.morvet.core.batch.RunScope;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.batch.JobBook;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Over which jobs something stands, as it is chosen in a form. */
@Component
class Scopes {
    record Choice(String value, String words) {}

    private final JobBook jobs;
    private final Estate estate;

    Scopes(JobBook jobs, Estate estate) {
        this.jobs = jobs;
        this.estate = estate;
    }

    List<Choice> choices() {
        var all = new ArrayList<Choice>();
        all.add(new Choice("ALL:", "any job"));
        jobs.all().stream()
                .map(job -> job.job().chain())
                .filter(one -> !one.isEmpty())
                .distinct()
                .forEach(chain -> all.add(new Choice("CHAIN:" + chain, "a job of the chain " + chain)));
        estate.applications().forEach(one -> all.add(new Choice("APPLICATION:" + one.key(), "a job of " + one.name())));
        jobs.all().forEach(job -> all.add(new Choice("JOB:" + job.key(), job.name())));
        return all;
    }

    static String value(RunScope scope) {
        return scope.kind() + ":" + scope.name();
    }

    /** @throws IllegalArgumentException where nothing that is offered was chosen */
    static RunScope read(String value) {
        var parts = value.split(":", 2);
        return new RunScope(
                chosen(RunScope.Kind.class, parts[0], "over which jobs it stands"), parts.length == 2 ? parts[1] : "");
    }

    /** @throws IllegalArgumentException where it is none of the kind */
    static <E extends Enum<E>> E chosen(Class<E> kind, String text, String what) {
        for (var one : kind.getEnumConstants()) if (one.name().equals(text)) return one;
        throw new IllegalArgumentException("choose " + what);
    }
}
