package app.morvet.work.callouts;

import app.morvet.alerting.windows.WindowTold;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.windows.Telling;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Tells the teams that own what a window covers that it comes, begins and ends, where the window says that they are to be told. */
@Component
class WindowMails {
    private static final int NAMED = 10;

    private final Mails mails;
    private final Windows windows;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Times times;

    WindowMails(Mails mails, Windows windows, Estate estate, MorvetSettings settings, Times times) {
        this.mails = mails;
        this.windows = windows;
        this.estate = estate;
        this.settings = settings;
        this.times = times;
    }

    @EventListener
    void on(WindowTold told) {
        var covered = new LinkedHashMap<Estate.Team, List<String>>();
        var scope = told.window().window().scope();
        for (var one : estate.components())
            if (scope.takes(windows.factsOf(one)))
                estate.ownerOf(one).ifPresent(team -> covered.computeIfAbsent(team, it -> new ArrayList<>())
                        .add(one.name()));
        covered.forEach((team, names) -> mails.post(Delivery.mail(
                new Delivery.Of.Window(told.window().id()),
                team.id(),
                null,
                Delivery.About.WINDOW,
                team.mail(),
                subject(told),
                body(told, team, names),
                told.at(),
                told.at())));
    }

    private String subject(WindowTold told) {
        var span = told.told().span();
        var from = times.of(span.from());
        var to = times.of(span.to());
        var words =
                switch (told.told().said()) {
                    case COMES -> "begins at " + from;
                    case MOVED -> "is at another time, and begins at " + from;
                    case OFF -> "does not take place";
                    case BEGINS -> "has begun, until " + to;
                    case LASTS -> "goes on until " + to;
                    case ENDS -> "is over";
                };
        return "Window \"%s\" %s".formatted(told.window().window().name(), words);
    }

    private String body(WindowTold told, Estate.Team team, List<String> names) {
        var from = times.exact(told.told().span().from());
        var to = times.exact(told.told().span().to());
        var when = told.told().said() == Telling.Said.OFF
                ? "It was to be from %s to %s.".formatted(from, to)
                : "From  %s\nTo    %s".formatted(from, to);
        var more = names.size() > NAMED ? " and %d more".formatted(names.size() - NAMED) : "";
        return """
                %s.

                %s
                Times are in %s.

                It covers, of what %s owns: %s%s.
                %s

                Everything about it: %s
                """
                .formatted(
                        subject(told),
                        when,
                        times.zoneName(),
                        team.name(),
                        String.join(", ", names.subList(0, Math.min(NAMED, names.size()))),
                        more,
                        windows.sentence(told.window().window()),
                        settings.link("/windows/" + told.window().id()));
    }
}
