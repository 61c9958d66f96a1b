package app.morvet.standins.machines;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** What the collectors tell, in the plain text format that OpenMetrics came from. */
final class Pages {
    /** A machine after the other, so that families are mixed: what the plain-text ancestor of OpenMetrics allows. */
    static final String TYPE = "text/plain; version=0.0.4; charset=utf-8";

    private Pages() {}

    /** Totals since a machine was started, by its key and the name of the counter. */
    record Totals(Map<String, Double> counters, Map<String, double[]> buckets) {
        static Totals none() {
            return new Totals(new HashMap<>(), new HashMap<>());
        }
    }

    private static final String HEADS =
            """
            # TYPE processor_busy gauge
            # UNIT processor_busy percent
            # HELP processor_busy Share of processor time in use.
            # TYPE memory_used gauge
            # UNIT memory_used percent
            # HELP memory_used Share of memory in use.
            # TYPE disk_used gauge
            # UNIT disk_used percent
            # HELP disk_used Share of a volume in use.
            # TYPE threads gauge
            # HELP threads Threads of all processes.
            # TYPE sessions gauge
            # HELP sessions People logged in.
            # TYPE pending_tasks gauge
            # HELP pending_tasks Tasks that wait for a worker.
            # TYPE free_workers gauge
            # HELP free_workers Workers that wait for a task.
            # TYPE requests counter
            # HELP requests Requests answered.
            # TYPE errors counter
            # HELP errors Requests answered with an error.
            # TYPE response_time histogram
            # UNIT response_time seconds
            # HELP response_time Time from request to answer.
            # TYPE response_time_p50 gauge
            # UNIT response_time_p50 seconds
            # TYPE response_time_p95 gauge
            # UNIT response_time_p95 seconds
            # TYPE response_time_p99 gauge
            # UNIT response_time_p99 seconds
            # TYPE queue_depth gauge
            # HELP queue_depth Messages that wait in a queue.
            # TYPE licences_used gauge
            # HELP licences_used Seats taken.
            # TYPE licences_owned gauge
            # HELP licences_owned Seats bought.
            # TYPE endpoint_answers gauge
            # HELP endpoint_answers 1 while it answers, else 0.
            # TYPE certificate_days_left gauge
            # HELP certificate_days_left Days until it runs out.
            # TYPE service stateset
            # HELP service What the service is in, by the operating system.
            # TYPE start_info gauge
            # HELP start_info How the service is started.
            # TYPE build_info gauge
            # HELP build_info What runs there.
            """;

    /** The heads of all measures; a page begins with them. */
    static String heads() {
        return HEADS;
    }

    private static final Map<String, String> VERSIONS = Map.of(
            "gangway", "4.19.0",
            "manifold", "7.4.1",
            "sextant", "2.8.0",
            "ledger", "5.2.3",
            "roster", "3.1.0",
            "quay", "12.9");

    /** Which version runs there, as collectors tell it: a gauge that is always 1. */
    private static void info(StringBuilder page, Machine machine) {
        var version = VERSIONS.get(machine.key().replaceAll("-\\d+$", ""));
        if (version != null)
            page.append("build_info{component=\"%s\",kind=\"%s\",version=\"%s\"} 1\n"
                    .formatted(machine.key(), machine.kind(), version));
    }

    /**
     * The lines of one collector at an instant.
     *
     * @param past whether response times are told as percentiles that a collector had reckoned then
     */
    static void lines(
            StringBuilder page,
            String collector,
            Instant at,
            Physique physique,
            List<Illness> illnesses,
            Totals totals,
            boolean past) {
        var felt = Illness.feltAt(at, illnesses);
        for (var machine : Machine.ALL) {
            if (!machine.collector().equals(collector) || Physique.silent(felt, machine, at)) continue;
            var stamp = past ? " " + at.toEpochMilli() : "";
            if (!past) info(page, machine);
            switch (machine.kind()) {
                case "host" -> {
                    line(page, "processor_busy", machine, "", physique.processor(machine, at, felt), stamp);
                    line(page, "memory_used", machine, "", physique.memory(machine, at, felt), stamp);
                    for (var volume : new String[] {"/", "/data"})
                        line(
                                page,
                                "disk_used",
                                machine,
                                ",volume=\"" + volume + "\"",
                                physique.disk(machine, volume, at, felt),
                                stamp);
                    line(page, "threads", machine, "", physique.threads(machine, at), stamp);
                }
                case "instance" -> instance(page, machine, at, physique, felt, totals, past, stamp);
                case "queue" -> line(page, "queue_depth", machine, "", physique.depth(machine, at, felt), stamp);
                case "endpoint" -> line(page, "endpoint_answers", machine, "", ill(felt, machine, at) ? 0 : 1, stamp);
                case "certificate" ->
                    line(
                            page,
                            "certificate_days_left",
                            machine,
                            "",
                            ill(felt, machine, at) ? -1 : Math.floor(machine.size()),
                            stamp);
                case "service" -> service(page, machine, Physique.service(machine, at, felt), past, stamp);
                default -> {
                    line(page, "licences_used", machine, "", physique.seatsUsed(machine, at, felt), stamp);
                    line(page, "licences_owned", machine, "", machine.size(), stamp);
                }
            }
        }
    }

    private static void service(StringBuilder page, Machine machine, String state, boolean past, String stamp) {
        for (var word : new String[] {"running", "starting", "stopped"})
            line(page, "service", machine, ",service=\"" + word + "\"", word.equals(state) ? 1 : 0, stamp);
        var mode = machine.key().equals("roster-sync") ? "by hand" : "at boot";
        if (!past) line(page, "start_info", machine, ",mode=\"" + mode + "\"", 1, "");
    }

    private static boolean ill(List<Illness> illnesses, Machine machine, Instant at) {
        return illnesses.stream().anyMatch(one -> one.machine().equals(machine.key()) && one.lastsAt(at));
    }

    private static void instance(
            StringBuilder page,
            Machine machine,
            Instant at,
            Physique physique,
            List<Illness> illnesses,
            Totals totals,
            boolean past,
            String stamp) {
        line(page, "sessions", machine, "", physique.sessions(machine, at, illnesses), stamp);
        line(page, "pending_tasks", machine, "", physique.pending(machine, at, illnesses), stamp);
        line(page, "free_workers", machine, "", physique.freeWorkers(machine, at, illnesses), stamp);
        line(
                page,
                "requests_total",
                machine,
                "",
                totals.counters().getOrDefault(machine.key() + " requests", 0.0),
                stamp);
        line(page, "errors_total", machine, "", totals.counters().getOrDefault(machine.key() + " errors", 0.0), stamp);
        if (past) {
            line(page, "response_time_p50", machine, "", physique.response(machine, 0.5, at, illnesses), stamp);
            line(page, "response_time_p95", machine, "", physique.response(machine, 0.95, at, illnesses), stamp);
            line(page, "response_time_p99", machine, "", physique.response(machine, 0.99, at, illnesses), stamp);
            return;
        }
        var counts = totals.buckets().getOrDefault(machine.key(), new double[Physique.bounds().length]);
        for (int i = 0; i < counts.length; i++) {
            double bound = Physique.bounds()[i];
            var le = Double.isInfinite(bound) ? "+Inf" : Double.toString(bound);
            line(page, "response_time_bucket", machine, ",le=\"" + le + "\"", counts[i], stamp);
        }
    }

    private static void line(
            StringBuilder page, String name, Machine machine, String labels, double value, String stamp) {
        page.append(name)
                .append("{component=\"")
                .append(machine.key())
                .append("\",kind=\"")
                .append(machine.kind())
                .append('"')
                .append(labels)
                .append("} ");
        if (value == Math.rint(value) && Math.abs(value) < 1e15) page.append((long) value);
        else page.append(value);
        page.append(stamp).append('\n');
    }
}
