package app.morvet.ground.duty;

import app.morvet.core.duty.CallHours;
import app.morvet.core.estate.Tier;
import app.morvet.core.guard.Hours;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.page.Live;
import java.time.DayOfWeek;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** In which hours teams may be called, by the clock of their rota. */
@Service
public class TeamHours {
    private final JdbcClient jdbc;
    private final Audit audit;
    private final Live live;
    private final MorvetSettings settings;

    TeamHours(JdbcClient jdbc, Audit audit, Live live, MorvetSettings settings) {
        this.jdbc = jdbc;
        this.audit = audit;
        this.live = live;
        this.settings = settings;
    }

    public CallHours of(long team) {
        return find(team).getOrDefault(team, CallHours.ALWAYS);
    }

    /** Of those who may not be called at any time, by team. */
    public Map<Long, CallHours> all() {
        return find(null);
    }

    private Map<Long, CallHours> find(@Nullable Long team) {
        var found = new HashMap<Long, Map<Tier, Hours>>();
        jdbc.sql(
                        """
                        select h.*, r.zone from call_hours h left join rota r using (team_id)
                         where :team::bigint is null or h.team_id = :team""")
                .param("team", team)
                .query(row -> {
                    var zone = row.getString("zone");
                    var days = Arrays.stream((Integer[]) row.getArray("days").getArray())
                            .map(DayOfWeek::of)
                            .collect(Collectors.toSet());
                    found.computeIfAbsent(row.getLong("team_id"), none -> new HashMap<>())
                            .put(
                                    new Tier(row.getInt("tier")),
                                    new Hours(
                                            days,
                                            row.getObject("hours_from", LocalTime.class),
                                            row.getObject("hours_to", LocalTime.class),
                                            zone == null ? settings.zone() : ZoneId.of(zone)));
                });
        return found.entrySet().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, one -> new CallHours(one.getValue())));
    }

    /**
     * Says it for all tiers at once.
     *
     * @param seen as they were when they were looked at
     * @param by   null where Morvet does by itself
     * @throws IllegalArgumentException where they are others by now
     */
    @Transactional
    public void set(long team, String name, String seen, CallHours hours, @Nullable Person by) {
        var before = of(team);
        if (!before.toString().equals(seen))
            throw new IllegalArgumentException(
                    "somebody else changed these hours meanwhile to: %s; nothing was saved".formatted(before));
        jdbc.sql("delete from call_hours where team_id = :team")
                .param("team", team)
                .update();
        hours.byTier().forEach((tier, one) -> jdbc.sql(
                        """
                        insert into call_hours (team_id, tier, days, hours_from, hours_to)
                        values (:team, :tier, :days::int[], :from, :to)""")
                .param("team", team)
                .param("tier", tier.number())
                .param(
                        "days",
                        one.days().stream().map(DayOfWeek::getValue).sorted().toArray(Integer[]::new))
                .param("from", one.from())
                .param("to", one.to())
                .update());
        if (by != null) audit.record(by, "hours of calls changed", name, before.toString(), hours.toString());
        live.changed(Rotas.TOPIC);
    }
}
