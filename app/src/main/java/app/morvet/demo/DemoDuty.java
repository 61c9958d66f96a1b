package app.morvet.demo;

import app.morvet.core.duty.CallHours;
import app.morvet.core.duty.Rota;
import app.morvet.core.duty.Turns;
import app.morvet.core.duty.Turns.Every;
import app.morvet.core.estate.Tier;
import app.morvet.core.guard.Hours;
import app.morvet.ground.access.People;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.duty.TeamHours;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** The people of the teams, and their rotas: one with a gap, one in which somebody covers, one by night and by day. */
@Component
@Profile("demo")
class DemoDuty {
    private static final String TEAMS =
            """
            bookings-fares  | Saana Vuolle, Eero Tammi, Kaija Rinne
            freight-systems | Otso Haapala, Linnea Kivi, Tuomo Salmela, Reija Aalto
            finance-systems | Veera Laine, Markku Oja
            crew-systems    | Ilona Suvi, Petri Harju
            integration     | Sampo Niva, Aino Kukka, Jukka Laakso
            platform        | Helmi Pohja, Arto Sarka, Minna Vesa
            vendor-liaison  | Riitta Kallas, Olli Mantere
            """;

    private final People people;
    private final Rotas rotas;
    private final TeamHours hours;
    private final MorvetSettings settings;
    private final Clock clock;
    private int number = 1;

    DemoDuty(People people, Rotas rotas, TeamHours hours, MorvetSettings settings, Clock clock) {
        this.people = people;
        this.rotas = rotas;
        this.hours = hours;
        this.settings = settings;
        this.clock = clock;
    }

    void add(Map<String, Long> teams) {
        var members = new HashMap<String, List<Long>>();
        TEAMS.lines().forEach(line -> {
            var parts = line.split("\\|");
            var ids = new ArrayList<Long>();
            for (var name : parts[1].split(",")) ids.add(member(name.strip(), teams.get(parts[0].strip())));
            members.put(parts[0].strip(), ids);
        });
        // One of them logs in, to see what is handed to the team.
        people.logsIn(members.get("freight-systems").getFirst(), "ferry-member");
        var monday = LocalDate.ofInstant(clock.instant(), settings.zone())
                .minusWeeks(4)
                .with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
        var office = new Hours(
                EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
                LocalTime.of(8, 0),
                LocalTime.of(16, 0),
                settings.zone());
        for (var key : List.of("bookings-fares", "freight-systems", "finance-systems", "platform")) {
            var who = members.get(key);
            set(teams.get(key), 0, new Turns(monday, LocalTime.of(8, 0), Every.WEEKS, 1, who, null));
            set(teams.get(key), 1, new Turns(monday, LocalTime.of(8, 0), Every.WEEKS, 1, turned(who), null));
        }
        var hub = members.get("integration");
        set(teams.get("integration"), 0, new Turns(monday, LocalTime.of(6, 0), Every.HOURS, 12, hub, null));
        set(
                teams.get("crew-systems"),
                0,
                new Turns(monday, LocalTime.of(8, 0), Every.DAYS, 1, members.get("crew-systems"), null));
        set(
                teams.get("vendor-liaison"),
                0,
                new Turns(monday, LocalTime.MIDNIGHT, Every.WEEKS, 1, members.get("vendor-liaison"), office));
        // What can wait for weeks can wait for the morning.
        hours.set(
                java.util.Objects.requireNonNull(teams.get("freight-systems")),
                "Freight Systems",
                CallHours.ALWAYS.toString(),
                new CallHours(Map.of(new Tier(4), office)),
                null);
        // One evening is covered, and one free day of somebody is not yet.
        var today = LocalDate.ofInstant(clock.instant(), settings.zone());
        var freight = members.get("freight-systems");
        rotas.say(
                teams.get("freight-systems"),
                new Rota.Change.Covers(freight.get(3), 0, at(today.plusDays(1), 17), at(today.plusDays(1), 23)),
                null);
        rotas.say(
                teams.get("crew-systems"),
                new Rota.Change.Away(
                        members.get("crew-systems").get(0), at(today.plusDays(4), 0), at(today.plusDays(6), 0)),
                null);
    }

    private java.time.Instant at(LocalDate day, int hour) {
        return day.atTime(hour, 0).atZone(settings.zone()).toInstant();
    }

    private static List<Long> turned(List<Long> who) {
        var turned = new ArrayList<>(who.subList(1, who.size()));
        turned.add(who.getFirst());
        return turned;
    }

    private void set(@Nullable Long team, int line, Turns turns) {
        long id = java.util.Objects.requireNonNull(team);
        rotas.set(id, rotas.of(id).version(), settings.zone(), line, turns, null);
    }

    private long member(String name, @Nullable Long team) {
        var login = name.toLowerCase(Locale.ROOT).replace(' ', '.');
        long id = people.addMember(
                login, name, login + "@sundrava.example", "+358 00 555 %04d".formatted(100 + number++));
        rotas.join(java.util.Objects.requireNonNull(team), id, null);
        return id;
    }
}
