package app.morvet.demo;

import app.morvet.core.checks.Answer;
import app.morvet.core.checks.Expectation;
import app.morvet.core.checks.Look;
import app.morvet.core.checks.Result;
import app.morvet.sources.checks.Checks;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** What Sundrava's leads have Morvet ask of the endpoints, and what came of it in the past. */
@Component
@Profile("demo")
class DemoChecks {
    private static final Duration EVERY = Duration.ofMinutes(5);
    private static final Duration PATIENCE = Duration.ofSeconds(10);

    /** A time of trouble, in hours before now. */
    private record Trouble(double from, double to, boolean away) {}

    private final Checks checks;
    private final Clock clock;
    private final DemoSettings demo;

    DemoChecks(Checks checks, Clock clock, DemoSettings demo) {
        this.checks = checks;
        this.clock = clock;
        this.demo = demo;
    }

    /** @param past how long their past is */
    void add(Duration past) {
        add(
                "Booking site answers",
                "booking-site",
                "/endpoints/booking-site",
                "text \"Timetable\"",
                240,
                past,
                List.of(new Trouble(101, 100.4, false)));
        add(
                "Fares are open",
                "fares-api",
                "/endpoints/fares-api",
                "$.status = \"open\"",
                310,
                past,
                List.of(new Trouble(55, 54.2, false), new Trouble(29.5, 29.1, true)));
        add(
                "Manifests are taken",
                "manifest-api",
                "/endpoints/manifest-api",
                "$.status = \"open\"\n$.waiting <= 40",
                180,
                past,
                List.of(new Trouble(190, 189, true)));
        add(
                "Payroll answers",
                "payroll-gateway",
                "/endpoints/payroll-gateway",
                "$.status = \"open\"",
                420,
                past,
                List.of(new Trouble(127, 125.5, true), new Trouble(9.2, 8.6, true)));
        add(
                "Customer records answer",
                "ov-eu-7",
                "/vendors/ostrevia/instance",
                "$.open = true",
                160,
                past,
                List.of(new Trouble(310.2, 305.1, true), new Trouble(75.4, 70.8, false)));
        add(
                "Pay runs are taken",
                "plr-north-2",
                "/vendors/pellaroo/instance",
                "$.open = true",
                220,
                past,
                List.of(new Trouble(129.5, 124.8, true)));
        add(
                "Invoices are taken",
                "mk-inv-3",
                "/vendors/markentide/instance",
                "$.open = true",
                90,
                past,
                List.of(new Trouble(220.5, 217.9, false)));
    }

    private void add(
            String name,
            String key,
            String path,
            String expected,
            int usualMillis,
            Duration past,
            List<Trouble> troubles) {
        var look = Look.of("http", Map.of("url", demo.desk() + path, "within", "1500 ms", "expected", expected));
        checks.set(name, key, EVERY, look, List.of(), "", runs(key, usualMillis, past, troubles));
    }

    private List<Checks.PastRun> runs(String key, int usualMillis, Duration past, List<Trouble> troubles) {
        var random = new SplittableRandom(key.hashCode());
        var runs = new ArrayList<Checks.PastRun>();
        var now = clock.instant();
        for (var at = now.minus(past); at.isBefore(now.minus(EVERY)); at = at.plus(EVERY)) {
            double hours = Duration.between(at, now).toSeconds() / 3600.0;
            var trouble = troubles.stream()
                    .filter(one -> hours <= one.from() && hours > one.to())
                    .findFirst();
            var took = Duration.ofMillis(usualMillis / 2 + random.nextInt(usualMillis));
            runs.add(new Checks.PastRun(
                    at,
                    trouble.isEmpty()
                            ? passed(took)
                            : trouble.get().away()
                                    ? Result.none(PATIENCE, "no answer within 10000 ms")
                                    : Result.of(List.of(Expectation.Code.of("200")), new Answer(503, "", took))));
        }
        return runs;
    }

    private static Result passed(Duration took) {
        return Result.of(List.of(), took, "");
    }
}
