package app.morvet.standins.machines;

import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How machines behave, from a seed: the same instant of the same machine gives the same figures, whether it is asked for as
 * past or as present.
 */
final class Physique {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final double[] BOUNDS = {0.025, 0.05, 0.1, 0.2, 0.4, 0.8, 1.6, 3.2, Double.POSITIVE_INFINITY};

    /** What a service is in. Healed, it takes a moment to come up; and each night one after the other is started anew. */
    static String service(Machine machine, Instant at, List<Illness> illnesses) {
        for (var one : illnesses) {
            if (!one.machine().equals(machine.key())) continue;
            if (one.lastsAt(at))
                return switch (one.ailment()) {
                    case NOT_UP -> "starting";
                    case COMES_AND_GOES -> minute(at) % 14 < 8 ? "stopped" : "running";
                    default -> "stopped";
                };
            if (one.isOverJustBefore(at)) return "starting";
        }
        long night = Math.floorMod(machine.key().hashCode(), 60) * 2L;
        return minute(at) % 1440 == night ? "starting" : "running";
    }

    private static long minute(Instant at) {
        return Math.floorDiv(at.getEpochSecond(), 60);
    }

    private final long seed;

    Physique(long seed) {
        this.seed = seed;
    }

    /** Between -1 and 1, the same for the same things. */
    private double noise(Machine machine, String what, Instant at) {
        long mixed = seed * 31 + machine.key().hashCode();
        mixed = mixed * 0x9E3779B97F4A7C15L + what.hashCode();
        mixed = mixed * 0x9E3779B97F4A7C15L + at.getEpochSecond() / 60;
        mixed ^= mixed >>> 29;
        mixed *= 0xBF58476D1CE4E5B9L;
        mixed ^= mixed >>> 32;
        return (mixed & 0xFFFFFF) / (double) 0x7FFFFF - 1;
    }

    /** How busy the company is, 0 to 1: by hour of the day, less at weekends. */
    double bustle(Instant at) {
        var local = at.atZone(ZONE);
        double hour = local.getHour() + local.getMinute() / 60.0;
        double day = Math.max(0, Math.sin((hour - 5) / 18 * Math.PI));
        double peak = Math.exp(-Math.pow(hour - 9, 2) / 6) * 0.5 + Math.exp(-Math.pow(hour - 17, 2) / 8) * 0.4;
        double weekend = local.getDayOfWeek().getValue() >= 6 ? 0.65 : 1;
        return Math.min(1, 0.12 + (0.55 * day + peak * 0.6) * weekend);
    }

    private static boolean ill(List<Illness> illnesses, Machine machine, Ailment ailment, Instant at) {
        return find(illnesses, machine, ailment, at) != null;
    }

    /** For how many hours an ailment has lasted; 0 where it does not. */
    private static double since(List<Illness> illnesses, Machine machine, Ailment ailment, Instant at) {
        var found = find(illnesses, machine, ailment, at);
        return found == null ? 0 : found.hours(at);
    }

    private static @Nullable Illness find(List<Illness> illnesses, Machine machine, Ailment ailment, Instant at) {
        for (var one : illnesses)
            if (one.ailment() == ailment && one.machine().equals(machine.key()) && one.lastsAt(at)) return one;
        return null;
    }

    static boolean silent(List<Illness> illnesses, Machine machine, Instant at) {
        return ill(illnesses, machine, Ailment.SILENT, at);
    }

    double processor(Machine host, Instant at, List<Illness> illnesses) {
        if (ill(illnesses, host, Ailment.PROCESSOR_STUCK, at)) return round(96 + 2 * noise(host, "cpu", at), 10);
        double nightly = at.atZone(ZONE).getHour() == 2 ? 22 : 0;
        return round(clamp(9 + 52 * host.size() * bustle(at) + nightly + 4 * noise(host, "cpu", at)), 10);
    }

    double memory(Machine host, Instant at, List<Illness> illnesses) {
        double leaked = 7 * since(illnesses, host, Ailment.MEMORY_LEAK, at);
        return round(clamp(48 + 14 * host.size() + 9 * bustle(at) + leaked + 0.6 * noise(host, "mem", at)), 10);
    }

    double disk(Machine host, String volume, Instant at, List<Illness> illnesses) {
        double days = at.getEpochSecond() / 86_400.0;
        boolean data = volume.equals("/data");
        // Old files are cleaned away every so often, so disks fill and empty like a slow saw.
        double cycle = data ? 16 + host.size() * 6 : 40;
        double grown = (days + host.key().hashCode() % 11) % cycle * (data ? 1.3 : 0.25);
        double filled = data ? Math.min(60, 2.2 * since(illnesses, host, Ailment.DISK_FILLS, at)) : 0;
        return round(clamp((data ? 46 : 31) + grown + filled + (data ? 1.2 * bustle(at) : 0)), 100);
    }

    double threads(Machine host, Instant at) {
        return Math.rint(180 * host.size() + 140 * bustle(at) + 6 * noise(host, "threads", at));
    }

    double sessions(Machine instance, Instant at, List<Illness> illnesses) {
        double usual = 420 * instance.size() * bustle(at) * (1 + 0.06 * noise(instance, "sessions", at));
        return Math.rint(ill(illnesses, instance, Ailment.DESERTED, at) ? usual * 0.08 : usual);
    }

    double pending(Machine instance, Instant at, List<Illness> illnesses) {
        double tied = 260 * since(illnesses, instance, Ailment.WORKERS_TIED_UP, at);
        return Math.rint(Math.max(0, 14 * instance.size() * bustle(at) + 5 * noise(instance, "pending", at) + tied));
    }

    double freeWorkers(Machine instance, Instant at, List<Illness> illnesses) {
        if (ill(illnesses, instance, Ailment.WORKERS_TIED_UP, at)) return noise(instance, "free", at) > 0.6 ? 1 : 0;
        return Math.rint(Math.max(3, 32 - 20 * bustle(at) + 2 * noise(instance, "free", at)));
    }

    /** Requests in a minute. */
    double requests(Machine instance, Instant at, List<Illness> illnesses) {
        double usual = 900 * instance.size() * bustle(at) * (1 + 0.05 * noise(instance, "requests", at));
        return Math.rint(ill(illnesses, instance, Ailment.DESERTED, at) ? usual * 0.05 : usual);
    }

    /** Errors in a minute. */
    double errors(Machine instance, Instant at, List<Illness> illnesses) {
        double usual = requests(instance, at, illnesses) / 1800 * (1 + noise(instance, "errors", at));
        return Math.rint(
                usual + (ill(illnesses, instance, Ailment.ERRORS, at) ? 22 + 6 * noise(instance, "errors", at) : 0));
    }

    /** The median answer, in seconds. */
    private double median(Machine instance, Instant at, List<Illness> illnesses) {
        double usual = 0.06 + 0.07 * bustle(at) * instance.size() + 0.008 * noise(instance, "latency", at);
        double hours = since(illnesses, instance, Ailment.SLOW, at);
        return usual * (hours > 0 ? Math.min(9, 1.5 + 2.5 * hours) : 1);
    }

    /** An answer that a share of answers stay under. */
    double response(Machine instance, double share, Instant at, List<Illness> illnesses) {
        // Answers spread log-normally about their median.
        double stretch = share <= 0.5 ? 1 : share <= 0.95 ? Math.exp(0.55 * 1.645) : Math.exp(0.55 * 2.326);
        return round(median(instance, at, illnesses) * stretch, 1000);
    }

    static double[] bounds() {
        return BOUNDS.clone();
    }

    /** How the answers of a minute fall into the buckets, cumulative. */
    double[] buckets(Machine instance, Instant at, List<Illness> illnesses) {
        double count = requests(instance, at, illnesses);
        double middle = Math.log(median(instance, at, illnesses));
        var counts = new double[BOUNDS.length];
        for (int i = 0; i < BOUNDS.length; i++)
            counts[i] = Math.rint(
                    count * (Double.isInfinite(BOUNDS[i]) ? 1 : normal((Math.log(BOUNDS[i]) - middle) / 0.55)));
        return counts;
    }

    /** The normal distribution, by the logistic function; off by at most 0.01. */
    private static double normal(double z) {
        return 1 / (1 + Math.exp(-1.702 * z));
    }

    double depth(Machine queue, Instant at, List<Illness> illnesses) {
        double stuck = 900 * queue.size() * since(illnesses, queue, Ailment.STUCK, at);
        double usual = 60 * queue.size() * bustle(at) * (1 + 0.5 * noise(queue, "depth", at));
        return Math.rint(Math.max(0, usual + stuck));
    }

    double seatsUsed(Machine licence, Instant at, List<Illness> illnesses) {
        double hoarded = 0.03 * licence.size() * since(illnesses, licence, Ailment.HOARDED, at);
        double used = licence.size() * (0.25 + 0.55 * bustle(at)) + noise(licence, "seats", at) + hoarded;
        return Math.clamp(Math.rint(used), 0, licence.size());
    }

    private static double clamp(double percent) {
        return Math.clamp(percent, 0.5, 99.9);
    }

    private static double round(double value, int parts) {
        return Math.rint(value * parts) / parts;
    }
}
