package app.morvet.views.teams;

import app.morvet.core.duty.Rota;
import app.morvet.ground.access.People;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Whom to call about a case: who of the owning team is on duty now, line by line. */
@Component
@Order(1)
class DutyDossier implements DossierPart {
    /** @param phone empty where none is known */
    record OnCall(String line, String name, String phone, String mail) {}

    record Shown(String team, String key, List<OnCall> duty) {}

    private final CaseOwners owners;
    private final Rotas rotas;
    private final People people;
    private final Times times;

    DutyDossier(CaseOwners owners, Rotas rotas, People people, Times times) {
        this.owners = owners;
        this.rotas = rotas;
        this.people = people;
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
        return Optional.of(new Part("team-parts :: dossierPart", new Shown(team.name(), team.key(), duty(rota))));
    }

    private List<OnCall> duty(Rota rota) {
        var now = times.now();
        var duty = new ArrayList<OnCall>();
        for (int line = 0; line < rota.lines().size(); line++) {
            if (rota.lines().get(line).isEmpty()) continue;
            var person = rota.on(line, now);
            if (person == null) duty.add(new OnCall(Rotas.line(line), "nobody", "", ""));
            else {
                var card = people.card(person).orElseThrow();
                duty.add(new OnCall(Rotas.line(line), card.person().name(), card.phone(), card.mail()));
            }
        }
        return duty;
    }
}
