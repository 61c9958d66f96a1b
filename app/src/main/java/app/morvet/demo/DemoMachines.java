package app.morvet.demo;

import app.morvet.core.estate.Scope;
import app.morvet.ground.access.IntakeKeys;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Groups;
import app.morvet.views.links.LinksOut;
import java.time.Duration;
import java.util.Map;
import java.util.Set;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** The machines under Sundrava's applications: what stands on what, what needs what, and the feeds that tell of them. */
@Component
@Profile("demo")
class DemoMachines {
    /** How often the machines' pages are fetched, which is how often they have something new to say. */
    private static final Duration CADENCE = Duration.ofMinutes(2);

    private final Estate estate;
    private final Groups groups;
    private final IntakeKeys keys;
    private final LinksOut links;
    private final DemoSettings demo;

    DemoMachines(Estate estate, Groups groups, IntakeKeys keys, LinksOut links, DemoSettings demo) {
        this.estate = estate;
        this.groups = groups;
        this.keys = keys;
        this.links = links;
        this.demo = demo;
    }

    void add(Map<String, Long> applications) {
        for (var line :
                """
                quay-01          | quay-01            | host     | passenger-booking  |
                quay-02          | quay-02            | host     | passenger-booking  |
                quay-03          | quay-03            | host     | freight-manifests  |
                quay-04          | quay-04            | host     | settlement-ledger  |
                quay-05          | quay-05            | host     | integration-hub    |
                quay-06          | quay-06            | host     |                    |
                gangway-1        | gangway-1          | instance | passenger-booking  | quay-01
                gangway-2        | gangway-2          | instance | passenger-booking  | quay-02
                gangway-3        | gangway-3          | instance | passenger-booking  | quay-02
                manifold-1       | manifold-1         | instance | freight-manifests  | quay-03
                manifold-2       | manifold-2         | instance | freight-manifests  | quay-04
                sextant-1        | sextant-1          | instance | sailing-planner    | quay-05
                ledger-1         | ledger-1           | instance | settlement-ledger  | quay-04
                roster-1         | roster-1           | instance | crew-rostering     | quay-06
                queue-settlement | Settlement queue   | queue    | settlement-ledger  | quay-05
                queue-manifests  | Manifests queue    | queue    | freight-manifests  | quay-05
                queue-displays   | Displays queue     | queue    | departure-displays | quay-05
                chart-seats      | Chart seats        | licence  | sailing-planner    |
                rating-engine    | Rating engine      | licence  | passenger-booking  |
                exchange-gateway | Exchange gateway   | endpoint | integration-hub    |
                exchange-certificate | Exchange certificate | certificate | integration-hub |
                booking-site     | Booking site       | endpoint | passenger-booking  |
                fares-api        | Fares API          | endpoint | passenger-booking  |
                manifest-api     | Manifest API       | endpoint | freight-manifests  |
                payroll-gateway  | Payroll gateway    | endpoint | crew-rostering     |
                boarding-gate    | boarding-gate      | service  | passenger-booking  | quay-01
                fare-engine      | fare-engine        | service  | passenger-booking  | quay-02
                seat-map         | seat-map           | service  | passenger-booking  | quay-02
                manifest-relay   | manifest-relay     | service  | freight-manifests  | quay-03
                hub-carrier      | hub-carrier        | service  | integration-hub    | quay-05
                ledger-post      | ledger-post        | service  | settlement-ledger  | quay-04
                roster-sync      | roster-sync        | service  | crew-rostering     | quay-06
                tide-reader      | tide-reader        | service  | sailing-planner    | quay-05
                display-push     | display-push       | service  | departure-displays | quay-05
                stores-meter     | stores-meter       | service  | fuel-stores        | quay-06
                ledger-backup    | Ledger backup      | component | settlement-ledger | quay-04
                roster-mirror    | Roster mirror      | component | crew-rostering    | quay-06
                gate-clock       | Gate clock         | component | passenger-booking | quay-01
                """
                        .lines()
                        .toList()) {
            var part = line.split("\\|", -1);
            var key = part[0].strip();
            estate.add(key, part[1].strip(), part[2].strip(), applications.get(part[3].strip()));
            if (!part[4].isBlank()) estate.standsOn(key, part[4].strip());
        }
        estate.needs("manifest-to-harbour-authority", "queue-manifests");
        estate.needs("booking-settlement", "queue-settlement");
        estate.needs("departures-to-displays", "queue-displays");
        estate.needs("manifest-to-harbour-authority", "exchange-gateway");
        estate.needs("manifest-to-harbour-authority", "exchange-certificate");
        estate.needs("crew-hours-to-payroll", "exchange-gateway");
        estate.needs("crew-hours-to-payroll", "exchange-certificate");
        estate.needs("queue-manifests", "manifold-1");
        estate.needs("ledger-1", "queue-settlement");
        estate.needs("gangway-1", "rating-engine");
        estate.needs("sextant-1", "chart-seats");
        estate.needs("manifest-to-harbour-authority", "manifest-relay");
        estate.needs("departures-to-displays", "display-push");
        estate.needs("booking-settlement", "ledger-post");
        estate.needs("crew-hours-to-payroll", "payroll-gateway");
        estate.needs("fares-api", "fare-engine");
        for (var kind : new String[] {"host", "service", "instance"})
            links.set("kind", kind, "Panel of its machine", demo.desk() + "/machines?of={host}&from={from}&to={to}");
        links.set(
                "kind", Estate.INTERFACE, "Panel of the hub", demo.desk() + "/hub?of={component}&from={from}&to={to}");
        groups();
        feed("services", "Services");
        feed("hosts", "Hosts");
        feed("instances", "Instances and queues");
        feed("licences", "Licences");
    }

    private void groups() {
        groups.set(
                "Quays",
                "Quay crew, quays@sundrava.example",
                Scope.ALL.named("quay-0*").withAllOnIt(),
                Set.of());
        groups.set(
                "Harbour exchange",
                "Harbour authority's desk, 24 h",
                null,
                groups.named("exchange-gateway, exchange-certificate, manifest-to-harbour-authority"));
    }

    private void feed(String collector, String name) {
        long feed =
                estate.addFetchedFeed(collector, name, CADENCE, demo.desk() + "/machines/" + collector + "/metrics");
        keys.add(collector, feed, demo.key() + "." + collector);
    }
}
