package app.morvet.outpost;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.net.ServerSocket;
import java.rmi.registry.LocateRegistry;
import java.rmi.registry.Registry;
import java.rmi.server.UnicastRemoteObject;
import java.util.Map;
import javax.management.remote.JMXConnectorServer;
import javax.management.remote.JMXConnectorServerFactory;
import javax.management.remote.JMXServiceURL;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Beans of a Java program that is really asked over its connector: this one. */
class BeansTest {
    private Registry registry;
    private JMXConnectorServer server;
    private int port;

    @BeforeEach
    void open() throws Exception {
        try (var free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        registry = LocateRegistry.createRegistry(port);
        server = JMXConnectorServerFactory.newJMXConnectorServer(
                new JMXServiceURL("service:jmx:rmi:///jndi/rmi://127.0.0.1:" + port + "/jmxrmi"),
                Map.of(),
                ManagementFactory.getPlatformMBeanServer());
        server.start();
    }

    @AfterEach
    void close() throws IOException {
        server.stop();
        UnicastRemoteObject.unexportObject(registry, true);
    }

    private final Others others = new Others(host -> {
        if (host.startsWith("192.")) throw new IllegalArgumentException("not " + host);
    });

    @Test
    void aNumberAndTheNumbersOfWhatIsMadeOfSeveral() throws Exception {
        var address = "127.0.0.1:" + port;
        assertThat(others.beans(address, "java.lang:type=Threading", "ThreadCount"))
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.measure()).isEqualTo("bean_thread_count");
                    assertThat(one.value()).isPositive();
                    assertThat(one.labels()).isEqualTo(Map.of("bean", "java.lang:type=Threading", "of", address));
                });
        assertThat(others.beans(address, "java.lang:type=Memory", "HeapMemoryUsage"))
                .extracting(Host.Measured::measure)
                .contains("bean_heap_memory_usage_used", "bean_heap_memory_usage_max");
        assertThat(others.beans(address, "java.lang:type=MemoryPool,name=*", "Usage")
                        .size())
                .isGreaterThan(4);
    }

    @Test
    void whatIsNotThereIsSaid() {
        var address = "127.0.0.1:" + port;
        assertThatThrownBy(() -> others.beans(address, "java.lang:type=None", "Count"))
                .hasMessageContaining("no bean java.lang:type=None");
        assertThatThrownBy(() -> others.beans(address, "java.lang:type=Threading", "None"))
                .hasMessageContaining("None");
        assertThatThrownBy(() -> others.beans(address, "no bean", "None"))
                .hasMessageContaining("is not the name of a bean");
        assertThatThrownBy(() -> others.beans("192.0.2.1:9", "a:b=c", "D")).hasMessageContaining("not 192.0.2.1:9");
    }

    /** A line of paths and a line of values, each in quotes. */
    @Test
    void countersAsWindowsPrintsThem() {
        var printed =
                """

                "(PDH-CSV 4.0)","\\\\QUAY-03\\Processor(_Total)\\% Processor Time","\\\\QUAY-03\\Processor(0)\\% Processor Time"
                "11/27/2026 06:41:12.345","12.500000"," "
                The command completed successfully.
                """;
        assertThat(Others.counters("\\Processor(*)\\% Processor Time", printed))
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.value()).isEqualTo(12.5);
                    assertThat(one.labels()).isEqualTo(Map.of("path", "\\Processor(_Total)\\% Processor Time"));
                });
        assertThatThrownBy(() -> Others.counters("\\Nothing", "Error: No valid counters.\n"))
                .hasMessageContaining("there is no counter \\Nothing");
    }
}
