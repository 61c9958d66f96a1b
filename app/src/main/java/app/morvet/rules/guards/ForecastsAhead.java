package app.morvet.rules.guards;

import app.morvet.alerting.alerts.Alerts;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Coming;
import app.morvet.ground.page.Times;
import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Component;

/** What guards foretell: when it crosses its limit, if it goes on so. */
@Component
class ForecastsAhead implements Coming {
    private static final double HOUR = 3_600_000;

    private final Alerts alerts;
    private final GuardStore guards;
    private final Estate estate;
    private final Times times;

    ForecastsAhead(Alerts alerts, GuardStore guards, Estate estate, Times times) {
        this.alerts = alerts;
        this.guards = guards;
        this.estate = estate;
        this.times = times;
    }

    /** The value of a trend is in how many hours it crosses. */
    @Override
    public List<Item> coming(Instant from, Instant to) {
        return alerts.upOf(GuardOrigins.KIND, guards.trends()).stream()
                .map(one -> new Item(
                        times.now().plusMillis(Math.round(Math.max(0, one.value()) * HOUR)),
                        one.level().word(),
                        one.words(),
                        "/estate/components/"
                                + estate.component(one.about().component()).key()))
                .filter(one -> !one.at().isBefore(from) && one.at().isBefore(to))
                .toList();
    }
}
