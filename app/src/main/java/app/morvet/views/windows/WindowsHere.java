package app.morvet.views.windows;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.windows.Windows;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.List;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** What windows have to do with a component: which covers it now, what is held on it, and that one can be opened at once. */
@Component
@Order(90)
public class WindowsHere implements DossierPart {
    /**
     * @param window  the id of the one that covers it now, or 0
     * @param until   when that ends
     * @param held    what is held on it now, in words
     */
    public record Here(String key, String name, long window, String windowName, String until, List<String> held) {}

    private final Windows windows;
    private final Alerts alerts;
    private final Estate estate;
    private final Times times;

    WindowsHere(Windows windows, Alerts alerts, Estate estate, Times times) {
        this.windows = windows;
        this.alerts = alerts;
        this.estate = estate;
        this.times = times;
    }

    public Here of(Estate.Component one) {
        var on = windows.covering(one.id(), times.now()).orElse(null);
        var held = alerts.heldUp().stream()
                .filter(alert -> alert.about().component() == one.id())
                .map(Alert::words)
                .toList();
        return new Here(
                one.key(),
                one.name(),
                on == null ? 0 : on.id(),
                on == null ? "" : on.window().name(),
                on == null ? "" : times.of(on.to()),
                held);
    }

    @Override
    public String liveTopic() {
        return Windows.TOPIC;
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        return Optional.of(new Part("window-parts :: dossier", of(estate.component(shown.component()))));
    }
}
