package app.morvet.work.cases;

import app.morvet.alerting.alerts.Origins;
import app.morvet.ground.estate.Estate;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** Whose a case is: a guard or sorting rule that calls may name the team itself; otherwise it is the application's. */
@Service
public class CaseOwners {
    private final CaseAlerts alerts;
    private final Origins origins;
    private final Estate estate;

    CaseOwners(CaseAlerts alerts, Origins origins, Estate estate) {
        this.alerts = alerts;
        this.origins = origins;
        this.estate = estate;
    }

    public Optional<Estate.Team> of(WorkCase one) {
        return alerts.upOf(one.id()).stream()
                .map(alert -> origins.of(alert).owner(alert))
                .flatMap(Optional::stream)
                .findFirst()
                .or(() -> estate.ownerOf(estate.component(one.component())));
    }
}
