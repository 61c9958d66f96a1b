package app.morvet.core.outposts;

import java.time.Duration;
import java.util.Set;

/**
 * Something that outposts are asked to measure.
 *
 * @param whence who asks it: of all outposts, of those of a group, of this one
 * @param name   of the group; empty for the others
 * @param what   one of {@link #MEASURES}, or {@code page URL}, {@code bean ADDRESS NAME ATTRIBUTE}, {@code counter PATH}
 * @param of     which of several, as names with commas between; empty for all
 * @param every  how often
 * @param active false where it is not to be measured, whoever asks it from further away
 */
public record Ask(Whence whence, String name, String what, String of, Duration every, boolean active) {
    /** What a host is asked for by a word alone. */
    public static final Set<String> MEASURES = Set.of("processor", "memory", "disks", "network", "load", "processes");

    private static final Duration SHORTEST = Duration.ofSeconds(5);
    private static final Duration LONGEST = Duration.ofDays(1);

    /** From the farthest to the nearest. */
    public enum Whence {
        ALL,
        GROUP,
        ONE
    }

    public Ask {
        if (!MEASURES.contains(what)
                && !what.matches("page https?://\\S{1,500}|bean \\S{1,300} \\S{1,300} \\S{1,100}|counter \\\\.{1,300}"))
            throw new IllegalArgumentException(
                    "\"%s\" cannot be measured; write processor, memory, disks, network, load or processes, page http://…, bean host:port domain:name=… Attribute, or counter \\Object(instance)\\Counter"
                            .formatted(what));
        if (every.compareTo(SHORTEST) < 0 || every.compareTo(LONGEST) > 0)
            throw new IllegalArgumentException("an outpost measures every 5 s to every day");
        if (of.length() > 500) throw new IllegalArgumentException("names have at most 500 characters together");
    }

    /** As a person reads it. */
    public String words() {
        return switch (whence) {
            case ALL -> "all outposts";
            case GROUP -> "the group " + name;
            case ONE -> "this outpost";
        };
    }
}
