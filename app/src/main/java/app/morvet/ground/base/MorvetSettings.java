package app.morvet.ground.base;

import app.morvet.core.messages.EventTimes;
import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * What is said at the start and holds until the end.
 *
 * @param zone        the zone of the estate: whose midnight counts, and in which times are shown
 * @param address     where people and ticket desks reach this Morvet; links in mails and tickets begin with it
 * @param clockOffset how far Morvet's clock is ahead of the machine's; zero but in a demo that starts at another instant
 * @param clockFile   a file that says the same and may be changed meanwhile, in its place; for tests that do not wait
 * @param outgoing    hosts, each as {@code host:port}, to which outgoing calls may go; nothing else is called
 * @param mailFrom    the sender of mails
 * @param keepReadings how long readings are kept
 * @param keepMessages how long failed messages are kept that nobody needs to deal with any more
 * @param keepRuns     how long runs are kept, and what became of expected starts
 * @param keepOutputs  how long it is kept what runs wrote
 */
@ConfigurationProperties("morvet")
public record MorvetSettings(
        @DefaultValue("UTC") ZoneId zone,
        @DefaultValue("http://localhost:7400") URI address,
        @DefaultValue("0s") Duration clockOffset,
        @Nullable Path clockFile,
        @DefaultValue List<String> outgoing,
        @DefaultValue("morvet@localhost") String mailFrom,
        @DefaultValue("400d") Duration keepReadings,
        @DefaultValue("400d") Duration keepMessages,
        @DefaultValue("400d") Duration keepRuns,
        @DefaultValue("120d") Duration keepOutputs) {

    /** Events may come this late: what is kept must not be gone before. */
    private static final Duration LEAST_KEPT = EventTimes.BACK.plusDays(2);

    public MorvetSettings {
        atLeast("messages", keepMessages);
        atLeast("runs", keepRuns);
        atLeast("outputs", keepOutputs);
    }

    private static void atLeast(String what, Duration kept) {
        if (kept.compareTo(LEAST_KEPT) < 0)
            throw new IllegalArgumentException(
                    "morvet.keep-%s is %d days and must be at least %d: events may be %d days old"
                            .formatted(what, kept.toDays(), LEAST_KEPT.toDays(), EventTimes.BACK.toDays()));
    }

    /** The whole address of a path in this Morvet. */
    public String link(String path) {
        return address.toString().replaceAll("/$", "") + path;
    }
}
