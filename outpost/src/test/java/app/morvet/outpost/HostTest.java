package app.morvet.outpost;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.InetAddress;
import java.net.ServerSocket;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** This very machine, as it is measured. */
class HostTest {
    private final Host host = new Host();

    @ParameterizedTest
    @CsvSource({
        "processor, processor_busy, percent, 0, 100",
        "memory,    memory_used,    percent, 1, 100",
        "disks,     disk_used,      percent, 0, 100",
        "processes, processes,      '',      2, 100000",
        "processes, threads,        '',      2, 1000000",
        "load,      load,           '',      0, 10000",
    })
    void whatIsMeasuredLiesWhereItCan(String what, String measure, String unit, double least, double most) {
        assertThat(host.measure(what, ""))
                .filteredOn(one -> one.measure().equals(measure))
                .isNotEmpty()
                .allSatisfy(one -> {
                    assertThat(one.value()).isBetween(least, most);
                    assertThat(one.unit()).isEqualTo(unit);
                    assertThat(one.sort()).isEqualTo("gauge");
                });
    }

    @Test
    void ofSeveralOnlyThoseThatAreWanted() {
        var all = host.measure("disks", "");
        assertThat(all)
                .extracting(one -> one.labels().keySet())
                .allMatch(keys -> keys.equals(java.util.Set.of("volume")));
        var first = all.getFirst().labels().get("volume");
        assertThat(host.measure("disks", first))
                .extracting(Host.Measured::labels)
                .containsExactly(Map.of("volume", first));
        assertThat(host.offers()).contains("processor", "memory", "load", "processes", "disks of " + first);
        assertThatThrownBy(() -> host.measure("disks", "/nowhere")).hasMessage("there are no disks /nowhere here");
        assertThatThrownBy(() -> host.measure("weather", "")).hasMessage("weather is not measured here");
        assertThat(host.measure("network", "")).extracting(Host.Measured::sort).allMatch("counter"::equals);
    }

    @Test
    void itsProcessesAreSeenAndWhoListens() throws Exception {
        long self = ProcessHandle.current().pid();
        var own = host.processes().stream()
                .filter(one -> one.id() == self)
                .findFirst()
                .orElseThrow();
        assertThat(own.commandLine()).contains("java");
        assertThat(own.memory()).isGreaterThan(10_000_000);
        assertThat(host.top(3)).hasSizeBetween(3, 6);
        try (var listening = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            assertThat(host.listens(self, listening.getLocalPort())).isTrue();
            assertThat(host.listens(self + 1, listening.getLocalPort())).isFalse();
        }
        assertThat(List.of(host.name(), host.system())).noneMatch(String::isBlank);
    }
}
