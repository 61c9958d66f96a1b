package app.morvet.views.shift;

import app.morvet.core.duty.Rota;
import app.morvet.core.shift.ShiftPlan;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Remembered;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Which shift is on: by the times into which the day is divided, and by the rota of a team, which says who has it. */
@Service
public class ShiftPlans implements NowSource {
    private static final String CHANGED = "shift-plan";
    /** So far it is looked for the beginning and the end of a turn. */
    private static final Duration AROUND = Duration.ofDays(9);

    /** @param team whose rota says who has the shift; null where none does */
    record Kept(String text, @Nullable Long team) {
        static final Kept NOTHING = new Kept("", null);
    }

    private final JdbcClient jdbc;
    private final Rotas rotas;
    private final People people;
    private final Estate estate;
    private final Audit audit;
    private final Notices notices;
    private final Times times;
    private final Remembered<Kept> kept = new Remembered<>(this::read, it -> true);

    ShiftPlans(JdbcClient jdbc, Rotas rotas, People people, Estate estate, Audit audit, Notices notices, Times times) {
        this.jdbc = jdbc;
        this.rotas = rotas;
        this.people = people;
        this.estate = estate;
        this.audit = audit;
        this.notices = notices;
        this.times = times;
        notices.hearOthers(CHANGED, kept::forget);
    }

    private Kept read() {
        return jdbc.sql("select text, team_id as team from shift_plan")
                .query(Kept.class)
                .optional()
                .orElse(Kept.NOTHING);
    }

    Kept kept() {
        return kept.get();
    }

    /** Which is on, with its times and who has it: {@code night, 22:00 to 06:00, Annika Ruuth}; empty where nothing says so. */
    String words() {
        return on().map(one -> one.name() + ", " + times.span(one.from(), one.to()) + one.of())
                .orElse("");
    }

    /** @param of who has it, by the rota, after a comma; empty where its name says so or nobody knows */
    private record On(String name, Instant from, Instant to, String of) {}

    private Optional<On> on() {
        var now = times.now();
        var duty = duty(now);
        var who = duty.map(Rota.Duty::person).flatMap(people::card).map(one -> one.person()
                .name());
        return ShiftPlan.parse(kept().text(), times.zone())
                .at(now)
                .map(one -> new On(
                        one.name(),
                        one.from(),
                        one.to(),
                        who.map(it -> ", " + it).orElse("")))
                .or(() -> duty.flatMap(one -> who.map(it -> new On(it, one.from(), one.to(), ""))));
    }

    /** The turn of the first line that is on. */
    private Optional<Rota.Duty> duty(Instant now) {
        var team = kept().team();
        if (team == null) return Optional.empty();
        return rotas.of(team).rota().duties(0, now.minus(AROUND), now.plus(AROUND)).stream()
                .filter(one -> !one.from().isAfter(now) && one.to().isAfter(now))
                .findFirst();
    }

    /**
     * @param team whose rota says who has the shift, by its key; empty for none
     * @throws IllegalArgumentException where it is no plan or no team; says why
     */
    @Transactional
    public void set(String typed, String team, Person by) {
        var plan = ShiftPlan.parse(typed, times.zone());
        var of = team.isEmpty() ? Optional.<Estate.Team>empty() : Optional.of(named(team));
        var before = words(kept());
        set(plan, of.map(Estate.Team::id).orElse(null));
        audit.record(by, "shifts of the day", "shifts", before, words(kept()));
    }

    private Estate.Team named(String team) {
        return estate.team(team)
                .orElseThrow(() -> new IllegalArgumentException("There is no team \"%s\".".formatted(team)));
    }

    private String words(Kept one) {
        var team = one.team();
        if (team == null) return one.text();
        return one.text() + " by the rota of "
                + estate.team(team).map(Estate.Team::name).orElse("a team");
    }

    /** As it is set up, by nobody. */
    @Transactional
    public void set(ShiftPlan plan, @Nullable Long team) {
        jdbc.sql(
                        """
                        insert into shift_plan (text, team_id) values (:text, :team)
                            on conflict (one_row) do update set text = excluded.text, team_id = excluded.team_id""")
                .param("text", plan.text())
                .param("team", team)
                .update();
        kept.forget();
        notices.tell(CHANGED);
    }

    @Override
    public List<NowItem> now() {
        return List.of();
    }

    @Override
    public String standing() {
        return on().map(one -> one.name() + " until " + times.of(one.to())).orElse("");
    }

    @Override
    public List<String> topics() {
        return List.of("now", ShiftNotes.TOPIC);
    }
}
