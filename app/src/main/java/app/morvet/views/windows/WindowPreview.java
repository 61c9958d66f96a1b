package app.morvet.views.windows;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.alert.Severity;
import app.morvet.core.batch.Forecast;
import app.morvet.core.windows.Doubts;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.ground.base.Named;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobFacts;
import app.morvet.sources.batch.Nights;
import app.morvet.sources.batch.StoredJob;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What a window would do, said before it is kept: what it covers, when it is, which jobs fall inside, what it would have held. */
@Component
class WindowPreview {
    private static final int NEXT = 10;
    private static final int NAMED = 8;
    private static final int MOST_ALERTS = 20_000;
    private static final Duration LOOKS_BACK = Duration.ofDays(14);

    /** @param meant by which one time is known */
    record Next(String meant, String when) {}

    /**
     * @param covers   how many components, with names
     * @param jobs     which starts of jobs fall into its next time; empty where it has none
     * @param deadlines which deadlines do, each with what the projection says
     * @param silenced what it would have held in the last two weeks, in words
     */
    record Means(
            String sentence,
            Named covers,
            List<Next> next,
            List<String> doubts,
            String jobs,
            List<String> deadlines,
            String silenced) {}

    private final Windows windows;
    private final WindowReach reach;
    private final Alerts alerts;
    private final JobBook jobs;
    private final JobFacts facts;
    private final Nights nights;
    private final Estate estate;
    private final Times times;

    WindowPreview(
            Windows windows,
            WindowReach reach,
            Alerts alerts,
            JobBook jobs,
            JobFacts facts,
            Nights nights,
            Estate estate,
            Times times) {
        this.windows = windows;
        this.reach = reach;
        this.alerts = alerts;
        this.jobs = jobs;
        this.facts = facts;
        this.nights = nights;
        this.estate = estate;
        this.times = times;
    }

    Means of(StoredWindow one) {
        var now = times.now();
        var window = one.window();
        var next = window.plan().next(now, NEXT);
        var covers = reach.of(one);
        var doubts = new ArrayList<>(Doubts.of(window.plan(), now));
        if (!next.isEmpty()) doubts.addAll(others(one, next.getFirst().span()));
        return new Means(
                windows.sentence(one),
                new Named(covers.count(), covers.names()),
                next.stream().map(this::next).toList(),
                doubts,
                next.isEmpty() ? "" : inside(window, next.getFirst().span()),
                next.isEmpty() ? List.of() : deadlines(window, next.getFirst().span()),
                silenced(window, now));
    }

    private Next next(Plan.Occurrence one) {
        return new Next(
                one.meant().toString(), times.span(one.span().from(), one.span().to()));
    }

    /** Other windows over some of the same at its next time. */
    private List<String> others(StoredWindow one, Plan.Span span) {
        var mine = reach.of(one);
        return windows.all().stream()
                .filter(other -> other.id() != one.id())
                .filter(other -> !other.window()
                        .plan()
                        .occurrences(span.from(), span.to())
                        .isEmpty())
                .filter(other -> reach.of(other).components().intersects(mine.components()))
                .map(other -> "\"%s\" is on at the same time, over some of the same; the last to end lets go."
                        .formatted(other.window().name()))
                .toList();
    }

    private List<StoredJob> jobsIn(MaintenanceWindow window) {
        return jobs.all().stream()
                .filter(job -> window.scope().takes(facts.of(job.job())))
                .toList();
    }

    private String inside(MaintenanceWindow window, Plan.Span span) {
        var within = jobsIn(window).stream().map(StoredJob::job).toList();
        var found = MaintenanceWindow.inside(span, within);
        if (found.isEmpty()) return within.isEmpty() ? "" : "No start of a job falls inside its next time.";
        int starts = found.stream().mapToInt(MaintenanceWindow.Inside::starts).sum();
        var named = Named.of(
                found.stream()
                        .map(it ->
                                jobs.nameOf(it.job()) + (it.starts() == 1 ? "" : " (%d times)".formatted(it.starts())))
                        .toList(),
                NAMED);
        return "%s inside its next time%s: %s."
                .formatted(
                        starts == 1 ? "1 start of a job falls" : starts + " starts of jobs fall",
                        window.jobs() == MaintenanceWindow.Jobs.NOT_EXPECTED
                                ? (starts == 1 ? " and is not expected" : " and are not expected")
                                : "",
                        named.list());
    }

    /** Those that fall into a time, with what the projection says of them where it reaches that far. */
    private List<String> deadlines(MaintenanceWindow window, Plan.Span span) {
        var within = jobsIn(window).stream().map(StoredJob::key).collect(Collectors.toSet());
        var night = within.isEmpty() ? Optional.<Nights.View>empty() : nights.latest();
        if (night.isEmpty()) return List.of();
        return night.get().forecast().ahead().stream()
                .filter(one -> one.occurrence().deadline() != null
                        && span.has(one.occurrence().deadline())
                        && within.contains(one.occurrence().job().key()))
                .map(this::deadline)
                .toList();
    }

    private String deadline(Forecast.Ahead one) {
        return "%s is due %s, inside; %.0f %% to make it"
                .formatted(
                        jobs.nameOf(one.occurrence().job().key()),
                        times.of(one.occurrence().deadline()),
                        100 * one.makes());
    }

    /** By the alerts that are kept: what it would have held, had it been there. Of one that is once, at the same hours of each day. */
    private String silenced(MaintenanceWindow window, Instant now) {
        if (!window.holds()) return "";
        var from = now.minus(LOOKS_BACK);
        var spans = window.plan().recurs()
                ? window.plan().occurrences(from, now).stream()
                        .map(Plan.Occurrence::span)
                        .toList()
                : sameHours(window.plan(), from, now);
        if (spans.isEmpty()) return "It would not have been on in the last two weeks.";
        var held = alerts.raisedIn(from, now, MOST_ALERTS).stream()
                .filter(one -> spans.stream().anyMatch(span -> span.has(one.raisedAt())))
                .filter(one -> window.scope()
                        .takes(windows.factsOf(estate.component(one.about().component()))))
                .toList();
        var when = window.plan().recurs() ? "" : " at the same hours";
        if (held.isEmpty()) return "In the last two weeks it would have held nothing%s.".formatted(when);
        long critical =
                held.stream().filter(one -> one.level() == Severity.CRITICAL).count();
        long outlived = held.stream().filter(one -> outlived(one, spans)).count();
        var names = Named.of(
                held.stream()
                        .map(one -> estate.component(one.about().component()).name())
                        .distinct()
                        .toList(),
                NAMED);
        var what = held.size() == 1
                ? (critical == 1 ? "1 critical alert" : "1 alert")
                : held.size() + " alerts" + (critical == 0 ? "" : ", %d of them critical,".formatted(critical));
        var after =
                switch ((int) outlived) {
                    case 0 -> "None outlived it.";
                    case 1 -> "One outlived it and would have become a case at its end.";
                    default -> "%d outlived it and would have become cases at its end.".formatted(outlived);
                };
        return "In the last two weeks it would have held %s%s on %s. %s".formatted(what, when, names.list(), after);
    }

    private static boolean outlived(Alert one, List<Plan.Span> spans) {
        var end = spans.stream()
                .filter(span -> span.has(one.raisedAt()))
                .map(Plan.Span::to)
                .max(Instant::compareTo)
                .orElseThrow();
        return one.clearedAt() == null || one.clearedAt().isAfter(end);
    }

    private List<Plan.Span> sameHours(Plan plan, Instant from, Instant now) {
        var begin = Objects.requireNonNull(plan.first()).atZone(plan.zone());
        var spans = new ArrayList<Plan.Span>();
        for (var day = from.atZone(plan.zone()).toLocalDate();
                !day.isAfter(now.atZone(plan.zone()).toLocalDate());
                day = day.plusDays(1)) {
            var at = ZonedDateTime.of(day, begin.toLocalTime(), plan.zone()).toInstant();
            spans.add(new Plan.Span(at, at.plus(plan.length())));
        }
        return spans;
    }
}
