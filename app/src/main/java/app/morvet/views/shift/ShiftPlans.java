package app.morvet.views.shift;

import app.morvet.core.shift.ShiftPlan;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Into which shifts a day is divided, and which is on; it stands on the now line. */
@Service
public class ShiftPlans implements NowSource {
    private final JdbcClient jdbc;
    private final Audit audit;
    private final Times times;

    ShiftPlans(JdbcClient jdbc, Audit audit, Times times) {
        this.jdbc = jdbc;
        this.audit = audit;
        this.times = times;
    }

    ShiftPlan plan() {
        return ShiftPlan.parse(text(), times.zone());
    }

    private String text() {
        return jdbc.sql("select text from shift_plan")
                .query(String.class)
                .optional()
                .orElse("");
    }

    /** Which is on, with its times: {@code night, 22:00 to 06:00}; empty where the day is not divided. */
    String words() {
        return on().map(one -> one.name() + ", " + times.span(one.from(), one.to()))
                .orElse("");
    }

    Optional<ShiftPlan.Shift> on() {
        return plan().at(times.now());
    }

    /** @throws IllegalArgumentException where it is no plan; says why */
    @Transactional
    public void set(String typed, Person by) {
        var plan = ShiftPlan.parse(typed, times.zone());
        var before = text();
        set(plan);
        audit.record(by, "shifts of the day", "shifts", before, plan.text());
    }

    /** As it is set up, by nobody. */
    @Transactional
    public void set(ShiftPlan plan) {
        jdbc.sql(
                        "insert into shift_plan (text) values (:text) on conflict (one_row) do update set text = excluded.text")
                .param("text", plan.text())
                .update();
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
