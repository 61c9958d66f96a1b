package app.morvet.views.teams;

import app.morvet.ground.duty.Rotas;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.List;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Whom to call about a case: who of the owning team is on duty now, line by line. */
@Component
@Order(1)
class DutyDossier implements DossierPart {
    record Shown(String team, String key, List<Rotas.OnLine> duty) {}

    private final CaseOwners owners;
    private final Rotas rotas;
    private final Times times;

    DutyDossier(CaseOwners owners, Rotas rotas, Times times) {
        this.owners = owners;
        this.rotas = rotas;
        this.times = times;
    }

    @Override
    public String liveTopic() {
        return Rotas.TOPIC;
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var team = owners.of(shown).orElse(null);
        if (team == null) return Optional.empty();
        var rota = rotas.of(team.id()).rota();
        if (rota.isEmpty()) return Optional.empty();
        return Optional.of(new Part(
                "team-parts :: dossierPart", new Shown(team.name(), team.key(), rotas.lines(rota, times.now()))));
    }
}
