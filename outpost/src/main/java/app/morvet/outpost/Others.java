package app.morvet.outpost;

import app.morvet.probe.Permits;
import app.morvet.probe.Run;
import app.morvet.probe.Web;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javax.management.JMException;
import javax.management.MalformedObjectNameException;
import javax.management.ObjectName;
import javax.management.openmbean.CompositeData;
import javax.management.remote.JMXConnectorFactory;
import javax.management.remote.JMXServiceURL;

/** What is read by name from what runs here: pages of metrics, beans of Java programs, counters of Windows. */
final class Others {
    private static final Duration PATIENCE = Duration.ofSeconds(10);

    private final Permits permits;
    private final Web web = new Web();

    Others(Permits permits) {
        this.permits = permits;
    }

    /** A page of metrics, as it stands there. */
    String page(String url) throws IOException, InterruptedException {
        var uri = URI.create(url);
        permits.reach(uri.getHost() + ":"
                + (uri.getPort() >= 0 ? uri.getPort() : uri.getScheme().equals("https") ? 443 : 80));
        var answer = web.call(
                HttpRequest.newBuilder().header("Accept", "application/openmetrics-text, text/plain"), url, PATIENCE);
        if (answer.status() != 200) throw new IOException(url + " answers " + answer.status());
        return answer.body();
    }

    /**
     * An attribute of the beans that a name stands for; of one that is made of several each that is a number.
     *
     * @param address {@code host:port} where its JMX connector listens
     * @param name    may stand for several, as {@link ObjectName} has it
     */
    List<Host.Measured> beans(String address, String name, String attribute) throws IOException {
        permits.reach(address);
        var measured = new ArrayList<Host.Measured>();
        try (var connector = JMXConnectorFactory.connect(
                new JMXServiceURL("service:jmx:rmi:///jndi/rmi://" + address + "/jmxrmi"), Map.of())) {
            var beans = connector.getMBeanServerConnection();
            for (var bean : beans.queryNames(new ObjectName(name), null)) {
                var value = beans.getAttribute(bean, attribute);
                var labels = Map.of("bean", cut(bean.getCanonicalName()), "of", address);
                if (value instanceof Number number) measured.add(bean(attribute, labels, number));
                else if (value instanceof CompositeData several)
                    for (var part : several.getCompositeType().keySet())
                        if (several.get(part) instanceof Number number)
                            measured.add(bean(attribute + "_" + part, labels, number));
            }
        } catch (MalformedObjectNameException wrong) {
            throw new IllegalArgumentException(name + " is not the name of a bean", wrong);
        } catch (JMException failed) {
            throw new IOException(name + " " + attribute + ": " + failed.getMessage(), failed);
        }
        if (measured.isEmpty()) throw new IOException("no bean " + name + " has a number " + attribute);
        return measured;
    }

    private static Host.Measured bean(String attribute, Map<String, String> labels, Number value) {
        return new Host.Measured(
                "bean_"
                        + attribute
                                .replaceAll("([a-z])([A-Z])", "$1_$2")
                                .toLowerCase(java.util.Locale.ROOT)
                                .replaceAll("[^a-z0-9_]", "_"),
                "gauge",
                "",
                labels,
                value.doubleValue());
    }

    private static String cut(String text) {
        return text.length() > 200 ? text.substring(0, 200) : text;
    }

    /** A counter of Windows by its path, such as {@code \Processor(_Total)\% Processor Time}. */
    List<Host.Measured> counter(String path) throws IOException, InterruptedException {
        Run run;
        try {
            run = Run.of(List.of("typeperf.exe", "-sc", "1", path), PATIENCE);
        } catch (IOException none) {
            throw new IllegalArgumentException("this system has no counters of that sort", none);
        }
        return counters(path, run.output());
    }

    /** @param printed what {@code typeperf} prints: a line of the paths, a line of the values, each in quotes */
    static List<Host.Measured> counters(String path, String printed) {
        var lines = printed.lines().filter(line -> line.startsWith("\"")).toList();
        if (lines.size() < 2)
            throw new IllegalArgumentException("there is no counter " + path + ": " + printed.strip());
        var names = cells(lines.get(0));
        var values = cells(lines.get(1));
        var measured = new ArrayList<Host.Measured>();
        for (int i = 1; i < Math.min(names.size(), values.size()); i++) {
            try {
                measured.add(new Host.Measured(
                        "counter",
                        "gauge",
                        "",
                        // Without the name of the machine in front, which is that of the host.
                        Map.of("path", cut(names.get(i).replaceFirst("^\\\\\\\\[^\\\\]+", ""))),
                        Double.parseDouble(values.get(i).strip().replace(',', '.'))));
            } catch (NumberFormatException none) {
                // it has no value at the moment
            }
        }
        return measured;
    }

    private static List<String> cells(String line) {
        return List.of(line.replaceAll("^\"|\"\\s*$", "").split("\",\"", -1));
    }
}
