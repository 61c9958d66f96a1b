package app.morvet.base;

import java.net.URI;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * What is said at the start and holds until the end.
 *
 * @param zone        the zone of the estate: whose midnight counts, and in which times are shown
 * @param address     where people and ticket desks reach this Morvet; links in mails and tickets begin with it
 * @param clockOffset how far Morvet's clock is ahead of the machine's; zero but in a demo that starts at another instant
 * @param outgoing    hosts, each as {@code host:port}, to which outgoing calls may go; nothing else is called
 * @param mailFrom    the sender of mails
 * @param keepReadings how long readings are kept
 */
@ConfigurationProperties("morvet")
public record MorvetSettings(
        @DefaultValue("UTC") ZoneId zone,
        @DefaultValue("http://localhost:7400") URI address,
        @DefaultValue("0s") Duration clockOffset,
        @DefaultValue List<String> outgoing,
        @DefaultValue("morvet@localhost") String mailFrom,
        @DefaultValue("400d") Duration keepReadings) {

    /** The whole address of a path in this Morvet. */
    public String link(String path) {
        return address.toString().replaceAll("/$", "") + path;
    }
}
