package app.morvet.outpost;

import app.morvet.probe.ProcessLooking;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import oshi.SystemInfo;
import oshi.hardware.NetworkIF;
import oshi.software.os.OSFileStore;
import oshi.software.os.OSProcess;
import oshi.software.os.OperatingSystem;

/** This host as it is measured: processor, memory, disks, network, load, processes. */
final class Host implements ProcessLooking.Host {
    private static final double PERCENT = 100.0;

    /**
     * Something measured.
     *
     * @param sort as Morvet reads it
     */
    record Measured(String measure, String sort, String unit, Map<String, String> labels, double value) {}

    private final SystemInfo system = new SystemInfo();
    private final OperatingSystem os = system.getOperatingSystem();
    private long @Nullable [] ticks;

    String name() {
        return os.getNetworkParams().getHostName();
    }

    String system() {
        return os.toString();
    }

    /** What can be measured here, a line each. */
    List<String> offers() {
        var lines = new ArrayList<>(List.of("processor", "memory", "load", "processes"));
        stores().forEach(one -> lines.add("disks of " + one.getMount()));
        cards().forEach(one -> lines.add("network of " + one.getName()));
        return lines;
    }

    /**
     * @param what one of the words of a brief
     * @param of   which of several, with commas between; empty for all
     * @throws IllegalArgumentException where that is not measured here
     */
    List<Measured> measure(String what, String of) {
        return switch (what) {
            case "processor" -> processor();
            case "memory" -> memory();
            case "disks" -> disks(of);
            case "network" -> network(of);
            case "load" -> load();
            case "processes" ->
                List.of(
                        gauge("processes", "", Map.of(), os.getProcessCount()),
                        gauge("threads", "", Map.of(), os.getThreadCount()));
            default -> throw new IllegalArgumentException(what + " is not measured here");
        };
    }

    private static Measured gauge(String measure, String unit, Map<String, String> labels, double value) {
        return new Measured(measure, "gauge", unit, labels, value);
    }

    /** The share in use since it was asked before; the first time it waits a moment, so that there is a before. */
    private List<Measured> processor() {
        var processor = system.getHardware().getProcessor();
        var before = ticks;
        if (before == null) {
            before = processor.getSystemCpuLoadTicks();
            oshi.util.Util.sleep(500);
        }
        ticks = processor.getSystemCpuLoadTicks();
        double busy = processor.getSystemCpuLoadBetweenTicks(before) * PERCENT;
        return List.of(gauge("processor_busy", "percent", Map.of(), busy));
    }

    private List<Measured> memory() {
        var memory = system.getHardware().getMemory();
        var all = new ArrayList<Measured>();
        double used = memory.getTotal() - (double) memory.getAvailable();
        all.add(gauge("memory_used", "percent", Map.of(), used / memory.getTotal() * PERCENT));
        var swap = memory.getVirtualMemory();
        if (swap.getSwapTotal() > 0)
            all.add(gauge("swap_used", "percent", Map.of(), swap.getSwapUsed() * PERCENT / swap.getSwapTotal()));
        return all;
    }

    private List<OSFileStore> stores() {
        return os.getFileSystem().getFileStores(true).stream()
                .filter(one -> one.getTotalSpace() > 0)
                .filter(one -> !one.getType().matches("tmpfs|overlay|squashfs|proc|sysfs")
                        || one.getMount().equals("/"))
                .toList();
    }

    private List<Measured> disks(String of) {
        var all = new ArrayList<Measured>();
        for (var one : stores()) {
            if (!chosen(of, one.getMount())) continue;
            double used = one.getTotalSpace() - (double) one.getUsableSpace();
            all.add(gauge(
                    "disk_used", "percent", Map.of("volume", one.getMount()), used / one.getTotalSpace() * PERCENT));
        }
        if (all.isEmpty()) throw new IllegalArgumentException("there are no disks " + of + " here");
        return all;
    }

    private List<NetworkIF> cards() {
        return system.getHardware().getNetworkIFs(false).stream()
                .filter(one -> one.getIPv4addr().length + one.getIPv6addr().length > 0)
                .toList();
    }

    private List<Measured> network(String of) {
        var all = new ArrayList<Measured>();
        for (var one : cards()) {
            if (!chosen(of, one.getName())) continue;
            one.updateAttributes();
            var labels = Map.of("card", one.getName());
            all.add(new Measured("network_received", "counter", "bytes", labels, one.getBytesRecv()));
            all.add(new Measured("network_sent", "counter", "bytes", labels, one.getBytesSent()));
        }
        return all;
    }

    private static boolean chosen(String of, String name) {
        return of.isEmpty() || Arrays.asList(of.split("\\s*,\\s*")).contains(name);
    }

    private List<Measured> load() {
        var load = system.getHardware().getProcessor().getSystemLoadAverage(3);
        var all = new ArrayList<Measured>();
        var spans = new String[] {"1 min", "5 min", "15 min"};
        for (int i = 0; i < load.length; i++)
            if (load[i] >= 0) all.add(gauge("load", "", Map.of("over", spans[i]), load[i]));
        return all;
    }

    @Override
    public List<ProcessLooking.Seen> processes() {
        return os.getProcesses().stream().map(Host::seen).toList();
    }

    /** The busiest and the largest. */
    List<ProcessLooking.Seen> top(int each) {
        var all = processes();
        var top = new java.util.LinkedHashSet<ProcessLooking.Seen>();
        all.stream()
                .sorted(Comparator.comparingDouble(ProcessLooking.Seen::processor)
                        .reversed())
                .limit(each)
                .forEach(top::add);
        all.stream()
                .sorted(Comparator.comparingLong(ProcessLooking.Seen::memory).reversed())
                .limit(each)
                .forEach(top::add);
        return List.copyOf(top);
    }

    private static ProcessLooking.Seen seen(OSProcess one) {
        var line = one.getCommandLine().replace('\0', ' ').strip();
        return new ProcessLooking.Seen(
                one.getProcessID(),
                one.getName(),
                line.isEmpty() ? one.getName() : line,
                one.getProcessCpuLoadCumulative() * PERCENT,
                one.getResidentSetSize(),
                Instant.ofEpochMilli(one.getStartTime()));
    }

    @Override
    public boolean listens(long process, int port) {
        return os.getInternetProtocolStats().getConnections().stream()
                .anyMatch(one -> one.getLocalPort() == port
                        && one.getowningProcessId() == process
                        && one.getState() == oshi.software.os.InternetProtocolStats.TcpState.LISTEN);
    }
}
