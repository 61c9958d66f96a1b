package app.morvet.work.callouts;

import app.morvet.ToldAlerts;
import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.duty.Turns;
import app.morvet.core.estate.Scope;
import app.morvet.ground.access.People;
import app.morvet.ground.duty.Rotas;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Autowired;

/** People who are on duty for a host of a team of its own, and what they are told of it. */
abstract class ToldPeople extends ToldAlerts {
    static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");

    @Autowired
    People everybody;

    @Autowired
    Rotas rotas;

    @Autowired
    CallOuts callOuts;

    @Autowired
    CallOutRules rulesOfCallOuts;

    Subject host;

    /** Somebody who is on duty in a line of the team of the host. */
    long onDuty(int line, String name, String phone) {
        var login = host.key() + "-" + name.toLowerCase(Locale.ROOT);
        long id = everybody.addMember(login, name + " of " + host.key(), login + "@sundrava.example", phone);
        rotas.join(host.team(), id, null);
        var turns = new Turns(
                LocalDate.now(ZONE).minusDays(1), LocalTime.MIDNIGHT, Turns.Every.WEEKS, 1, List.of(id), null);
        rotas.set(host.team(), rotas.of(host.team()).version(), ZONE, line, turns, null);
        return id;
    }

    String mail(long person) {
        return everybody.card(person).orElseThrow().mail();
    }

    /** A rule for the host alone, for what is critical. */
    long rule(String name, Happening when, @Nullable Duration again, boolean goesOn, Step... steps) {
        return ruleFrom(Severity.CRITICAL, name, when, again, goesOn, steps);
    }

    /** @param least how bad it is at least */
    long ruleFrom(
            Severity least, String name, Happening when, @Nullable Duration again, boolean goesOn, Step... steps) {
        var rule = new CallOutRule(
                name + " of " + host.key(),
                when,
                least,
                Scope.ALL.named(host.key()),
                null,
                List.of(steps),
                again,
                true,
                goesOn);
        return rulesOfCallOuts.keep(new CallOutRules.Stored(0, rule, false, 0), null);
    }

    long caseId() {
        return (Long) caseOf(host).get("id");
    }

    /** To whom, in the order in which they were told. */
    List<String> told(String about) {
        return jdbc.sql(
                        "select recipient from delivery where case_id = :id and about = :about order by made_at, step, id")
                .param("id", caseId())
                .param("about", about)
                .query(String.class)
                .list();
    }

    /** As if all that was told had been so much earlier. */
    void later(int minutes) {
        for (var what :
                List.of("delivery set made_at = made_at", "call_out_course set at = at", "case_turn set at = at"))
            jdbc.sql("update " + what + " - make_interval(mins => :minutes) where case_id = :id")
                    .param("minutes", minutes)
                    .param("id", caseId())
                    .update();
        callOuts.run("" + caseId());
    }
}
