package app.morvet.views.windows;

import app.morvet.alerting.windows.VendorWork;
import app.morvet.alerting.windows.Windows;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Coming;
import app.morvet.ground.page.Logged;
import app.morvet.ground.page.NewSince;
import app.morvet.ground.page.Times;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** Windows that begin or end, and what vendors plan that nobody has decided on. */
@Component
class WindowsAhead implements Coming, NewSince, Logged {
    private final Windows windows;
    private final VendorWork work;
    private final Estate estate;
    private final Times times;

    WindowsAhead(Windows windows, VendorWork work, Estate estate, Times times) {
        this.windows = windows;
        this.work = work;
        this.estate = estate;
        this.times = times;
    }

    @Override
    public List<Item> coming(Instant from, Instant to) {
        var items = new ArrayList<Item>();
        for (var one : windows.all()) {
            var name = one.window().name();
            var link = "/windows/" + one.id();
            for (var it : one.window().plan().occurrences(from, to)) {
                var span = it.span();
                if (!span.from().isBefore(from))
                    items.add(new Item(
                            span.from(), "held", "window begins: " + name + ", until " + times.of(span.to()), link));
                else if (span.to().isBefore(to))
                    items.add(new Item(
                            span.to(), "held", "window ends: " + name + "; what is still wrong then is told", link));
            }
        }
        for (var one : work.undecided(from, to)) {
            if (one.span().from().isBefore(from)) continue;
            var instance = estate.component(one.bulletin().component());
            items.add(new Item(
                    one.span().from(),
                    "notice",
                    "%s: %s, %s"
                            .formatted(
                                    instance.name(),
                                    one.bulletin().said().title(),
                                    one.state().words()),
                    "/vendors/" + instance.key()));
        }
        return items;
    }

    @Override
    public List<Logged.Line> logged(Instant from, Instant to, String words, int most) {
        var lines = new ArrayList<Logged.Line>();
        for (var it : windows.times(from, to)) {
            var name = windows.find(it.window()).map(one -> one.window().name()).orElse("a window");
            if (!name.toLowerCase(Locale.ROOT).contains(words.strip().toLowerCase(Locale.ROOT))) continue;
            var link = "/windows/" + it.window();
            if (!it.from().isBefore(from)) lines.add(new Logged.Line(it.from(), "", "window", name + " began", link));
            var end = it.ended() == null ? it.to() : it.ended();
            if (end.isBefore(to)) lines.add(new Logged.Line(end, "", "window", name + " ended", link));
        }
        return lines.stream()
                .sorted(Comparator.comparing(Logged.Line::at).reversed())
                .limit(most)
                .toList();
    }

    @Override
    public List<NewSince.Line> since(Instant since) {
        long taken = windows.times(since, times.now()).size();
        return taken == 0
                ? List.of()
                : List.of(new NewSince.Line(NewSince.words(taken, "window was on", "windows were on"), "/windows"));
    }
}
