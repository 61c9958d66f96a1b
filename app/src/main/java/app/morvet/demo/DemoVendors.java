package app.morvet.demo;

import app.morvet.core.vendors.Bulletin;
import app.morvet.core.vendors.Reading;
import app.morvet.core.vendors.VendorState;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.vendors.VendorFeeds;
import app.morvet.sources.vendors.VendorInstance;
import app.morvet.sources.vendors.Vendors;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** The three vendors from whom Sundrava rents, how their feeds are read, and what they said in the past. */
@Component
@Profile("demo")
class DemoVendors {
    private static final Duration EVERY = Duration.ofMinutes(1);
    /** What was said changes seldom, so the past is told at its changes, and once in so long between them. */
    private static final Duration STEP = Duration.ofHours(6);

    private static final Duration PAST_SPAN = Duration.ofDays(21);

    /** A time of trouble, in hours before now. */
    private record Trouble(double from, double to, VendorState state, String key, String title, String text) {
        boolean at(double hours) {
            return hours <= from && hours > to;
        }
    }

    private static final Map<String, List<Trouble>> PAST = Map.of(
            "ov-eu-7",
            List.of(
                    new Trouble(
                            310, 305.5, VendorState.NOT, "o-287", "No lookups", "A disk was lost; lookups are back."),
                    new Trouble(75, 71, VendorState.IN_PART, "o-311", "Imports were slow", "It serves again.")),
            "plr-north-2",
            List.of(new Trouble(
                    128, 125, VendorState.NOT, "urn:pellaroo:p-98", "Pay runs did not start", "It serves again.")),
            "mk-inv-3",
            List.of(new Trouble(220, 218, VendorState.IN_PART, "m-40", "Invoices wait", "They were sent one by one.")));

    private final Vendors vendors;
    private final Connections connections;
    private final Estate estate;
    private final DemoSettings demo;
    private final Clock clock;

    DemoVendors(Vendors vendors, Connections connections, Estate estate, DemoSettings demo, Clock clock) {
        this.vendors = vendors;
        this.connections = connections;
        this.estate = estate;
        this.demo = demo;
        this.clock = clock;
    }

    void add(Map<String, Long> applications) {
        instance("ov-eu-7", "Ostrevia", applications.get("passenger-booking"), 99.5, true);
        instance("plr-north-2", "Pellaroo", applications.get("crew-rostering"), 99, false);
        instance("mk-inv-3", "Markentide", applications.get("settlement-ledger"), 0, false);
        estate.needs("customer-updates", "ov-eu-7");
        estate.needs("crew-hours-to-payroll", "plr-north-2");
        estate.needs("booking-settlement", "mk-inv-3");
        feed("ov-eu-7", "functions", "/vendors/ostrevia/state.json", ostrevia());
        feed(
                "plr-north-2",
                "news",
                "/vendors/pellaroo/news.atom",
                Map.of(
                        "shape", "xml",
                        "words", "degraded-service = serves in part\nno-service = does not serve",
                        "planned", "planned",
                        "over", "resolved"));
        feed("mk-inv-3", "pulse", "/vendors/markentide/pulse.json", markentide());
        feed("mk-inv-3", "works", "/vendors/markentide/works.ics", Map.of("shape", "calendar"));
    }

    private void instance(String key, String vendor, long application, double agreed, boolean byItself) {
        estate.add(key, key, Vendors.KIND, application);
        long id = estate.byKey(key).orElseThrow().id();
        vendors.keep(
                new VendorInstance(
                        id,
                        vendor,
                        agreed,
                        "support@" + vendor.toLowerCase(java.util.Locale.ROOT) + ".example",
                        byItself,
                        Duration.ofDays(1),
                        0),
                null);
    }

    private void feed(String component, String name, String path, Map<String, String> settings) {
        var all = new HashMap<>(settings);
        all.put(VendorFeeds.COMPONENT, component);
        all.put(VendorFeeds.EVERY, "" + EVERY.toSeconds());
        connections.keep(new Connection(
                0, VendorFeeds.SORT, component + " " + name, null, name, demo.desk() + path, "", "", all, 0));
    }

    private static Map<String, String> ostrevia() {
        return Map.ofEntries(
                Map.entry("shape", "json"),
                Map.entry("parts", "$.functions"),
                Map.entry("partName", "$.label"),
                Map.entry("partState", "$.mood"),
                Map.entry("time", "$.asOf"),
                Map.entry("words", "fine = serves\nlimping = serves in part\ndown = does not serve"),
                Map.entry("bulletins", "$.notes"),
                Map.entry("bulletin-id", "$.ref"),
                Map.entry("bulletin-title", "$.head"),
                Map.entry("bulletin-text", "$.body"),
                Map.entry("bulletin-kind", "$.sort"),
                Map.entry("bulletin-in", "$.phase"),
                Map.entry("bulletin-from", "$.begin"),
                Map.entry("bulletin-to", "$.end"),
                Map.entry("planned", "works"),
                Map.entry("over", "closed"));
    }

    private static Map<String, String> markentide() {
        return Map.ofEntries(
                Map.entry("shape", "json"),
                Map.entry("state", "$['mk-inv-3'].colour"),
                Map.entry("time", "$.at"),
                Map.entry("words", "green = serves\namber = serves in part\nred = does not serve"),
                Map.entry("bulletins", "$['mk-inv-3'].diary"),
                Map.entry("bulletin-id", "$.no"),
                Map.entry("bulletin-title", "$.line"),
                Map.entry("bulletin-text", "$.more"),
                Map.entry("bulletin-from", "$.since"),
                Map.entry("bulletin-in", "$.done"),
                Map.entry("over", "yes"));
    }

    void past() {
        var now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
        PAST.forEach((key, troubles) -> {
            var feed = vendors.feeds(estate.byKey(key).orElseThrow().id()).stream()
                    .filter(one -> !one.name().equals("works"))
                    .findFirst()
                    .orElseThrow();
            for (var at : instants(troubles, now)) vendors.past(feed, said(troubles, at, now), at, STEP);
        });
    }

    private static List<Instant> instants(List<Trouble> troubles, Instant now) {
        var all = new ArrayList<Instant>();
        for (var at = now.minus(PAST_SPAN); at.isBefore(now.minus(STEP)); at = at.plus(STEP)) all.add(at);
        for (var one : troubles)
            for (double hours : new double[] {one.from(), one.to()}) all.add(now.minusSeconds((long) (hours * 3600)));
        return all.stream()
                .filter(at -> !at.isBefore(now.minus(PAST_SPAN)))
                .sorted()
                .distinct()
                .toList();
    }

    private static Reading said(List<Trouble> troubles, Instant at, Instant now) {
        double hours = Duration.between(at, now).toSeconds() / 3600.0;
        var state = VendorState.SERVES;
        var bulletins = new ArrayList<Bulletin>();
        for (var one : troubles) {
            if (hours > one.from()) continue;
            boolean on = one.at(hours);
            if (on) state = one.state();
            var from = now.minusSeconds((long) (one.from() * 3600));
            bulletins.add(new Bulletin(
                    one.key(),
                    false,
                    one.title(),
                    on ? "We look into it." : "We look into it.\n" + one.text(),
                    from,
                    null,
                    at,
                    !on,
                    Set.of()));
        }
        return new Reading(Map.of(Reading.WHOLE, state), bulletins, List.of());
    }
}
