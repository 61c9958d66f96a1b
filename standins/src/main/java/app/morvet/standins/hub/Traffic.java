package app.morvet.standins.hub;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.random.RandomGenerator;

/**
 * Makes traffic from a seed: the same minute of the same interface gives the same messages, whether it is asked for as
 * past or as present.
 */
final class Traffic {
    static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");

    /** Even a healthy interface loses one in so many. */
    private static final double STRAY = 1 / 9000.0;

    /** @param id the same for the same message, however often it is made */
    record Failed(String id, Carrier carrier, Instant at, Fault fault, Payloads.Payload payload, String error) {
        /** The message's own id: that of its first attempt. */
        String reference() {
            int attempt = id.indexOf('#');
            return attempt < 0 ? id : id.substring(0, attempt);
        }
    }

    /**
     * @param delivered how many got through
     * @param delays    how long each of these took, in seconds
     */
    record Minute(int delivered, List<Failed> failed, List<Double> delays) {}

    private final long seed;

    Traffic(long seed) {
        this.seed = seed;
    }

    /**
     * What an interface carries in the part of a minute that lies in {@code [from, to)}.
     *
     * @param minute   start of the minute
     * @param episodes when it is broken
     */
    Minute carry(Carrier carrier, Instant minute, Instant from, Instant to, List<Episode> episodes) {
        var random = new SplittableRandom(
                seed ^ carrier.key().hashCode() * 0x9E3779B97F4A7C15L ^ minute.getEpochSecond() * 0xBF58476D1CE4E5B9L);
        int messages = poisson(carrier.rate(minute.atZone(ZONE)), random);
        var own = episodes.stream()
                .filter(one -> one.carrier().equals(carrier.key()) && one.overlaps(minute, minute.plusSeconds(60)))
                .toList();
        var delays = new ArrayList<Double>();
        var failed = new ArrayList<Failed>();
        for (int i = 0; i < messages; i++) {
            // Every draw is made for every message, so that leaving some out does not change the others.
            var at = minute.plusMillis(random.nextInt(60_000));
            double luck = random.nextDouble();
            long itsOwn = random.nextLong();
            if (at.isBefore(from) || !at.isBefore(to)) continue;
            var fault = fault(at, luck, own);
            if (fault == null) delays.add(delay(carrier, isSlow(at, luck, own), itsOwn));
            else
                failed.add(fail(
                        "m:" + carrier.key() + ":" + minute.getEpochSecond() + ":" + i,
                        carrier,
                        at,
                        fault,
                        new SplittableRandom(itsOwn)));
        }
        failed.sort(java.util.Comparator.comparing(Failed::at));
        return new Minute(delays.size(), failed, delays);
    }

    /** Most take about as long as they usually do, a few much longer. */
    private static double delay(Carrier carrier, boolean slow, long own) {
        double spread = new java.util.Random(own).nextGaussian();
        double seconds = carrier.seconds() * Math.exp(0.45 * spread) * (slow ? 9 : 1);
        return Math.round(seconds * 1000) / 1000.0;
    }

    private static @org.jspecify.annotations.Nullable Fault fault(Instant at, double luck, List<Episode> episodes) {
        for (var episode : episodes) {
            if (episode.fault() != Fault.SLOW && covers(episode, at, luck)) return episode.fault();
        }
        return luck > 1 - STRAY ? Fault.TIMED_OUT : null;
    }

    private static boolean isSlow(Instant at, double luck, List<Episode> episodes) {
        for (var one : episodes) if (one.fault() == Fault.SLOW && covers(one, at, luck)) return true;
        return false;
    }

    private static boolean covers(Episode episode, Instant at, double luck) {
        return episode.covers(at) && luck < episode.share();
    }

    static Failed fail(String id, Carrier carrier, Instant at, Fault fault, RandomGenerator random) {
        var payload = Payloads.of(carrier, at, random);
        var error = fault.error(payload.businessKey(), random);
        var text = payload.text();
        if (fault == Fault.MALFORMED_PAYLOAD) text = text.substring(0, text.length() * 2 / 3);
        if (fault == Fault.HARBOUR_UNKNOWN) {
            text = text.replaceFirst("<harbour>[A-Z]+<", "<harbour>" + error.split("'")[1] + "<");
        }
        var broken = new Payloads.Payload(payload.businessKey(), payload.type(), text);
        return new Failed(id, carrier, at, fault, broken, error);
    }

    /** Knuth's method; good for the small means that there are here. */
    private static int poisson(double mean, RandomGenerator random) {
        double limit = Math.exp(-mean);
        double product = random.nextDouble();
        int count = 0;
        while (product > limit) {
            product *= random.nextDouble();
            count++;
        }
        return count;
    }

    /**
     * The trouble of the past: some on most days, of every kind, and a few hours before the first start what the shift
     * that takes over finds open.
     */
    List<Episode> past(Instant start, Duration length) {
        var random = new SplittableRandom(seed);
        var episodes = new ArrayList<Episode>();
        for (long day = length.toDays(); day > 0; day--) {
            int troubles = random.nextInt(3);
            for (int i = 0; i < troubles; i++) {
                var carrier = Carrier.ALL.get(random.nextInt(Carrier.ALL.size()));
                var fault = faultFor(carrier, random);
                var from = start.minus(Duration.ofDays(day)).plus(Duration.ofMinutes(random.nextInt(18 * 60)));
                episodes.add(new Episode(
                        carrier.key(),
                        fault,
                        from,
                        from.plus(Duration.ofMinutes(15 + random.nextInt(90))),
                        0.15 + random.nextDouble() * 0.8));
            }
        }
        episodes.add(new Episode("departures-to-displays", Fault.SLOW, start.minus(Duration.ofMinutes(58)), null, 1));
        episodes.add(new Episode(
                "crew-hours-to-payroll",
                Fault.CERTIFICATE_EXPIRED,
                start.minus(Duration.ofMinutes(205)),
                start.minus(Duration.ofMinutes(150)),
                1));
        episodes.add(new Episode(
                "customer-updates",
                Fault.DUPLICATE_KEY,
                start.minus(Duration.ofMinutes(75)),
                start.minus(Duration.ofMinutes(52)),
                0.5));
        episodes.add(new Episode(
                "booking-settlement",
                Fault.CONNECTION_REFUSED,
                start.minus(Duration.ofMinutes(38)),
                start.minus(Duration.ofMinutes(30)),
                0.7));
        episodes.add(new Episode(
                "manifest-to-harbour-authority",
                Fault.HARBOUR_UNKNOWN,
                start.minus(Duration.ofMinutes(34)),
                start.minus(Duration.ofMinutes(4)),
                0.9));
        return episodes;
    }

    /** Which version of each interface ran from when on: the newest last. */
    List<Deployed> versions(Instant start) {
        var random = new SplittableRandom(seed + 1);
        var versions = new ArrayList<Deployed>();
        for (var carrier : Carrier.ALL) {
            int major = 2 + random.nextInt(3);
            int minor = random.nextInt(6);
            versions.add(new Deployed(
                    carrier.key(), start.minus(Duration.ofDays(60 + random.nextInt(20))), major + "." + minor));
            versions.add(new Deployed(
                    carrier.key(),
                    start.minus(Duration.ofHours(40 + random.nextInt(18 * 24))),
                    major + "." + (minor + 1)));
        }
        return versions;
    }

    /** What does not run when the shift takes over: a version that could not be deployed. */
    List<Halt> halts(Instant start) {
        return List.of(new Halt(
                "sea-state-readings-in",
                start.minus(Duration.ofMinutes(26)),
                null,
                "failed to deploy",
                "Step \"map buoys\" names the channel buoys-north, which no node of the hub has. The version before was taken out before this one was put in.",
                "5.0"));
    }

    private static Fault faultFor(Carrier carrier, RandomGenerator random) {
        while (true) {
            var fault = Fault.values()[random.nextInt(Fault.values().length)];
            if (fault == Fault.SLOW) continue;
            if (fault != Fault.HARBOUR_UNKNOWN || carrier.key().startsWith("manifest")) return fault;
        }
    }
}
