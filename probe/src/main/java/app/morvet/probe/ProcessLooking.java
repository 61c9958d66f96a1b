package app.morvet.probe;

import app.morvet.core.checks.Processes;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/** Counts processes of this host by their command lines. What they use is measured by who knows the host. */
public final class ProcessLooking implements Looking<Processes> {
    /**
     * A process of this host.
     *
     * @param processor in percent of one core, over its life
     * @param memory    bytes that it has in memory
     */
    public record Seen(long id, String name, String commandLine, double processor, long memory, Instant since) {}

    /** Knows the processes of this host. */
    public interface Host {
        List<Seen> processes();

        /** Whether a process listens on a port. */
        boolean listens(long process, int port);
    }

    private final Host host;

    public ProcessLooking(Host host) {
        this.host = host;
    }

    @Override
    public Class<Processes> of() {
        return Processes.class;
    }

    @Override
    public Result at(Processes target, Around around, Watch watch) throws IOException {
        long self = ProcessHandle.current().pid();
        var found = host.processes().stream()
                .filter(one -> one.id() != self && target.fits(one.commandLine()))
                .sorted(Comparator.comparing(Seen::since))
                .toList();
        var verdicts = new ArrayList<Verdict>();
        verdicts.add(Verdict.of(
                target.most() == 999 ? "at least " + target.least() : target.least() + " to " + target.most(),
                found.size() >= target.least() && found.size() <= target.most(),
                found.isEmpty() ? "there is none" : "there are " + found.size()));
        if (target.port() > 0 && !found.isEmpty())
            verdicts.add(Verdict.of(
                    "one of them at port " + target.port(),
                    found.stream().anyMatch(one -> host.listens(one.id(), target.port())),
                    "none listens there"));
        var figures = List.of(
                Result.Figure.gauge("processes", "", found.size()),
                Result.Figure.gauge(
                        "process_processor",
                        "percent",
                        found.stream().mapToDouble(Seen::processor).sum()),
                Result.Figure.gauge(
                        "process_memory",
                        "bytes",
                        found.stream().mapToLong(Seen::memory).sum()));
        var said = found.stream()
                .limit(20)
                .map(one -> "%d since %s: %s".formatted(one.id(), one.since(), one.commandLine()))
                .reduce((a, b) -> a + "\n" + b)
                .orElse("none");
        return Result.of(verdicts, watch.took(), said).with(figures, Map.of(), "");
    }
}
