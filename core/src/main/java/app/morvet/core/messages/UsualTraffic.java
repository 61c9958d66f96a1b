package app.morvet.core.messages;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * What an interface usually carries in each hour of the week: the median of the same hour on the same weekday in past
 * weeks; where there are fewer than three of these, of the same hour on all working days or on all days of a weekend.
 *
 * @param byHour  168 numbers, from Monday 00:00 in the zone; NaN where nothing is known
 * @param p95     usual 95th percentile of the delay, in seconds; NaN where nothing is known
 */
public record UsualTraffic(ZoneId zone, double[] byHour, double p95) {
    public static final int SLOTS = 7 * 24;
    private static final int ENOUGH = 3;
    private static final long HOUR = 3_600_000;
    private static final long WEEK = SLOTS * HOUR;
    /** 1970 began on a Thursday. */
    private static final int EPOCH_SLOT = 3 * 24;

    /** So many must have been usual before nothing at all counts as silence: by chance, that happens once in 1,100. */
    public static final double SURELY_SOME = 7;

    private static final double LATE = 3;
    private static final int ENOUGH_DELAYS = 5;

    /** What an interface carried in an hour. */
    public record Hour(Instant at, long carried, double p95) {}

    public UsualTraffic {
        if (byHour.length != SLOTS) throw new IllegalArgumentException("168 hours, were " + byHour.length);
    }

    /** @param past whole hours, in any order; hours in which nothing was carried are told too, or are not counted */
    public static UsualTraffic of(List<Hour> past, ZoneId zone) {
        var exact = new ArrayList<List<Double>>();
        var alike = new ArrayList<List<Double>>();
        for (int i = 0; i < SLOTS; i++) exact.add(new ArrayList<>());
        for (int i = 0; i < 48; i++) alike.add(new ArrayList<>());
        var delays = new ArrayList<Double>();
        for (var hour : past) {
            int slot = slot(hour.at().atZone(zone));
            exact.get(slot).add((double) hour.carried());
            alike.get(alike(slot)).add((double) hour.carried());
            if (hour.p95() > 0) delays.add(hour.p95());
        }
        var byHour = new double[SLOTS];
        for (int i = 0; i < SLOTS; i++)
            byHour[i] = median(exact.get(i).size() >= ENOUGH ? exact.get(i) : alike.get(alike(i)));
        return new UsualTraffic(zone, byHour, median(delays));
    }

    private static int alike(int slot) {
        return slot % 24 + (slot / 24 >= 5 ? 24 : 0);
    }

    static int slot(ZonedDateTime at) {
        return (at.getDayOfWeek().getValue() - DayOfWeek.MONDAY.getValue()) * 24 + at.getHour();
    }

    private static double median(List<Double> values) {
        if (values.isEmpty()) return Double.NaN;
        var sorted = values.stream().mapToDouble(Double::doubleValue).sorted().toArray();
        int middle = sorted.length / 2;
        return sorted.length % 2 == 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
    }

    /** How many are usual from one instant to another; hours of which nothing is known count as none. */
    public double expected(Instant from, Instant to) {
        double sum = 0;
        long at = from.toEpochMilli();
        long end = to.toEpochMilli();
        var rules = zone.getRules();
        // Where the clock did not change, and within a week it does not change to and fro, one offset serves for all.
        boolean even = end - at <= WEEK && rules.getOffset(from).equals(rules.getOffset(to));
        long offset = rules.getOffset(from).getTotalSeconds() * 1000L;
        while (at < end) {
            if (!even) offset = rules.getOffset(Instant.ofEpochMilli(at)).getTotalSeconds() * 1000L;
            long local = at + offset;
            long stop = Math.min(at + HOUR - Math.floorMod(local, HOUR), end);
            double usual = byHour[Math.floorMod(Math.floorDiv(local, HOUR) + EPOCH_SLOT, SLOTS)];
            if (!Double.isNaN(usual)) sum += usual * (stop - at) / HOUR;
            at = stop;
        }
        return sum;
    }

    /** Whether nothing was carried for so long that it cannot be chance: {@link #SURELY_SOME} or more were usual since. */
    public boolean silent(Instant lastCarried, Instant now) {
        return expected(lastCarried, now) >= SURELY_SOME;
    }

    /** Whether delays are late: their 95th percentile is three times the usual one, of five messages or more. */
    public boolean late(double p95Now, long delays) {
        return delays >= ENOUGH_DELAYS && !Double.isNaN(p95) && p95 > 0 && p95Now > LATE * p95;
    }

    public static UsualTraffic unknown(ZoneId zone) {
        var none = new double[SLOTS];
        Arrays.fill(none, Double.NaN);
        return new UsualTraffic(zone, none, Double.NaN);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof UsualTraffic(var otherZone, var hours, var otherP95)
                && zone.equals(otherZone)
                && Arrays.equals(byHour, hours)
                && Double.compare(p95, otherP95) == 0;
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(byHour);
    }

    @Override
    public String toString() {
        return Map.of("zone", zone, "p95", p95).toString();
    }
}
