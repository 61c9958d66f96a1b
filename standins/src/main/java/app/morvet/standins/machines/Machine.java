package app.morvet.standins.machines;

import java.util.List;

/**
 * One machine of the simulated estate.
 *
 * @param collector which page tells of it
 * @param size      how much it carries, 1 is ordinary
 */
record Machine(String key, String kind, String collector, double size) {
    static final List<String> COLLECTORS = List.of("hosts", "instances", "licences", "services");

    static final List<Machine> ALL = List.of(
            new Machine("quay-01", "host", "hosts", 1.0),
            new Machine("quay-02", "host", "hosts", 1.1),
            new Machine("quay-03", "host", "hosts", 0.9),
            new Machine("quay-04", "host", "hosts", 0.7),
            new Machine("quay-05", "host", "hosts", 0.8),
            new Machine("quay-06", "host", "hosts", 0.6),
            new Machine("gangway-1", "instance", "instances", 1.2),
            new Machine("gangway-2", "instance", "instances", 1.2),
            new Machine("gangway-3", "instance", "instances", 1.1),
            new Machine("manifold-1", "instance", "instances", 0.7),
            new Machine("manifold-2", "instance", "instances", 0.7),
            new Machine("sextant-1", "instance", "instances", 0.5),
            new Machine("ledger-1", "instance", "instances", 0.6),
            new Machine("roster-1", "instance", "instances", 0.4),
            new Machine("queue-settlement", "queue", "instances", 1.0),
            new Machine("queue-manifests", "queue", "instances", 0.6),
            new Machine("queue-displays", "queue", "instances", 1.4),
            new Machine("chart-seats", "licence", "licences", 60),
            new Machine("rating-engine", "licence", "licences", 24),
            new Machine("exchange-gateway", "endpoint", "licences", 1),
            new Machine("exchange-certificate", "certificate", "licences", 46),
            new Machine("boarding-gate", "service", "services", 1),
            new Machine("fare-engine", "service", "services", 1),
            new Machine("seat-map", "service", "services", 1),
            new Machine("manifest-relay", "service", "services", 1),
            new Machine("hub-carrier", "service", "services", 1),
            new Machine("ledger-post", "service", "services", 1),
            new Machine("roster-sync", "service", "services", 1),
            new Machine("tide-reader", "service", "services", 1),
            new Machine("display-push", "service", "services", 1),
            new Machine("stores-meter", "service", "services", 1));

    boolean isService() {
        return kind.equals("service");
    }

    static Machine of(String key) {
        return ALL.stream()
                .filter(one -> one.key().equals(key))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("There is no machine " + key + "."));
    }
}
