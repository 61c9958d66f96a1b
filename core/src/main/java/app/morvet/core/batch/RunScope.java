package app.morvet.core.batch;

/**
 * Which jobs a guard stands over.
 *
 * @param kind what {@code name} names
 * @param name the key of a job or application, or the name of a chain; empty for all jobs
 */
public record RunScope(Kind kind, String name) {
    public enum Kind {
        ALL,
        APPLICATION,
        CHAIN,
        JOB
    }

    public static final RunScope EVERYTHING = new RunScope(Kind.ALL, "");

    public RunScope {
        if (kind != Kind.ALL && name.isBlank()) throw new IllegalArgumentException("say which one");
    }

    /** @param application key of the job's application; empty where it has none */
    public boolean takes(Job job, String application) {
        return switch (kind) {
            case ALL -> true;
            case APPLICATION -> application.equals(name);
            case CHAIN -> job.chain().equals(name);
            case JOB -> job.key().equals(name);
        };
    }
}
