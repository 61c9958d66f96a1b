package app.morvet.demo;

import app.morvet.ground.access.IntakeKeys;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Role;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.InterfaceEnds;
import app.morvet.work.handoffs.Desks;
import app.morvet.work.mending.MiddlewareSetup;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Sundrava Ferries as an admin would have set it up: people, teams, applications, guards, the feed and the desk. */
@Component
@Profile("demo")
class DemoEstate {
    private static final String TEMPLATE =
            """
            {
              "summary": "{{title}}",
              "description": "{{story}}\\n\\nTier {{tier}}, {{severity}}.",
              "group": "{{teamKey}}",
              "caller": "{{by}}",
              "link": "{{link}}",
              "callback": "{{callback}}",
              "failures": "{{failures}}",
              "evidence": "{{samples}}",
              "attachments": "{{attachments}}"
            }
            """;

    private final People people;
    private final Estate estate;
    private final InterfaceEnds ends;
    private final DemoMachines machines;
    private final DemoGuards guards;
    private final DemoRules rules;
    private final DemoBatch batch;
    private final DemoWindows windows;
    private final DemoDuty duty;
    private final DemoCallOuts callOuts;
    private final DemoVendors vendors;
    private final DemoChanges changes;
    private final DemoOutposts outposts;
    private final IntakeKeys keys;
    private final Desks desks;
    private final MiddlewareSetup middleware;
    private final DemoSettings demo;

    DemoEstate(
            People people,
            Estate estate,
            InterfaceEnds ends,
            DemoMachines machines,
            DemoGuards guards,
            DemoRules rules,
            DemoBatch batch,
            DemoWindows windows,
            DemoDuty duty,
            DemoCallOuts callOuts,
            DemoVendors vendors,
            DemoChanges changes,
            DemoOutposts outposts,
            IntakeKeys keys,
            Desks desks,
            MiddlewareSetup middleware,
            DemoSettings demo) {
        this.people = people;
        this.estate = estate;
        this.ends = ends;
        this.machines = machines;
        this.guards = guards;
        this.rules = rules;
        this.batch = batch;
        this.windows = windows;
        this.duty = duty;
        this.callOuts = callOuts;
        this.vendors = vendors;
        this.changes = changes;
        this.outposts = outposts;
        this.keys = keys;
        this.desks = desks;
        this.middleware = middleware;
        this.demo = demo;
    }

    /** What the past tells of has been there as long. */
    public void seenSince(Instant at) {
        estate.seenSince(at);
    }

    /** Sets everything up where nothing is there yet. */
    @Transactional
    public void setUp() {
        if (!people.all().isEmpty()) return;
        addPeople();
        var byKey = addTeams();
        duty.add(byKey);
        var applications = addApplications(byKey);
        addInterfaces(applications);
        machines.add(applications);
        guards.add();
        rules.add();
        batch.add(applications);
        vendors.add(applications);
        windows.add();
        changes.add();
        outposts.add(applications);
        callOuts.add();
        long hub = estate.addFeed("hub", "Integration hub", Duration.ofMinutes(1));
        keys.add("integration hub", hub, demo.key());
        middleware.connect(
                hub,
                "Integration hub",
                demo.desk(),
                "/hub/api/send-again",
                "Authorization: Bearer " + demo.deskToken());
        desks.connect(
                "desk",
                "Service desk",
                demo.desk(),
                "/desk/api/tickets",
                "/desk/api/tickets/{{ticket}}",
                "/desk/tickets/{{ticket}}",
                "Authorization: Bearer " + demo.deskToken(),
                TEMPLATE,
                "$.ticket.number",
                "$.ticket.status",
                "$.ticket.resolution.text",
                "open = sent\naccepted = accepted\nreturned = returned\ndone = done",
                demo.deskSecret(),
                10);
    }

    /** Passwords are told by the start command; this is a demo and nothing in it is worth guarding. */
    private void addPeople() {
        people.add("analyst", "Annika Ruuth", Role.ANALYST, "ferry-analyst");
        people.add("analyst2", "Pia Lumme", Role.ANALYST, "ferry-analyst");
        people.add("lead", "Joel Varis", Role.LEAD, "ferry-lead");
        people.add("admin", "Mirva Kesti", Role.ADMIN, "ferry-admin");
        int number = 190;
        for (var one : people.all())
            people.reach(
                    one,
                    one.name().toLowerCase(Locale.ROOT).replace(' ', '.') + "@sundrava.example",
                    "+358 00 555 0%d".formatted(number++));
    }

    private Map<String, Long> addTeams() {
        var teams = new HashMap<String, Long>();
        for (var name : new String[] {
            "Bookings & Fares",
            "Freight Systems",
            "Finance Systems",
            "Crew Systems",
            "Integration",
            "Platform",
            "Vendor Liaison"
        }) {
            var key = name.toLowerCase(java.util.Locale.ROOT).replaceAll("[^a-z]+", "-");
            teams.put(key, estate.addTeam(key, name, key + "@sundrava.example"));
        }
        return teams;
    }

    private Map<String, Long> addApplications(Map<String, Long> teams) {
        var applications = new HashMap<String, Long>();
        for (var line :
                """
                passenger-booking  | Passenger Booking | 1 | bookings-fares
                freight-manifests  | Freight Manifests | 1 | freight-systems
                integration-hub    | Integration Hub   | 1 | integration
                sailing-planner    | Sailing Planner   | 1 | integration
                settlement-ledger  | Settlement Ledger | 2 | finance-systems
                crew-rostering     | Crew Rostering    | 2 | crew-systems
                departure-displays | Departure Displays| 2 | platform
                fuel-stores        | Fuel & Stores     | 3 | freight-systems
                sailing-archive    | Sailing Archive   | 3 | platform
                report-warehouse   | Report Warehouse  | 3 | finance-systems
                """
                        .lines()
                        .toList()) {
            var part = line.split("\\|");
            long team = teams.get(part[3].strip());
            applications.put(
                    part[0].strip(),
                    estate.addApplication(part[0].strip(), part[1].strip(), Integer.parseInt(part[2].strip()), team));
        }
        return applications;
    }

    private void addInterfaces(Map<String, Long> applications) {
        for (var line :
                """
                manifest-to-harbour-authority | Manifest to harbour authority | freight-manifests  | freight-manifests | Harbour authority
                booking-settlement            | Booking settlement            | settlement-ledger  | passenger-booking | settlement-ledger
                bunker-delivery-notes         | Bunker delivery notes         | fuel-stores        | Bunker suppliers  | fuel-stores
                crew-hours-to-payroll         | Crew hours to payroll         | crew-rostering     | crew-rostering    | Payroll at Pellaroo
                departures-to-displays        | Departures to displays        | departure-displays | sailing-planner   | departure-displays
                customer-updates              | Customer updates              | passenger-booking  | Customers at Ostrevia | passenger-booking
                sea-state-readings-in         | Sea-state readings in         | sailing-planner    | Sea-state buoys   | sailing-planner
                """
                        .lines()
                        .toList()) {
            var part = line.split("\\|");
            estate.add(part[0].strip(), part[1].strip(), Estate.INTERFACE, applications.get(part[2].strip()));
            var key = estate.byKey(part[0].strip()).orElseThrow();
            ends.set(key.id(), new InterfaceEnds.Ends(part[3].strip(), part[4].strip()));
        }
    }
}
