package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.callouts.Wishes;
import app.morvet.core.duty.CallHours;
import app.morvet.core.duty.Rota;
import app.morvet.core.estate.Tier;
import app.morvet.ground.access.People;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.duty.TeamHours;
import app.morvet.ground.estate.Estate;
import app.morvet.work.channels.Outside;
import app.morvet.work.channels.TextGateway;
import app.morvet.work.handoffs.Desks;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Who is meant by a step of a rule, and how each of them is reached. */
@Service
class Recipients {
    private final Rotas rotas;
    private final TeamHours hours;
    private final People people;
    private final Estate estate;
    private final Connections connections;
    private final Desks desks;
    private final WishStore wishes;
    private final Map<String, Way> kinds;

    Recipients(
            Rotas rotas,
            TeamHours hours,
            People people,
            Estate estate,
            Connections connections,
            Desks desks,
            WishStore wishes,
            List<Outside> kinds) {
        this.wishes = wishes;
        this.rotas = rotas;
        this.hours = hours;
        this.people = people;
        this.estate = estate;
        this.connections = connections;
        this.desks = desks;
        this.kinds = kinds.stream().collect(Collectors.toMap(Outside::kind, Outside::way));
    }

    /**
     * Somebody who is meant.
     *
     * @param who  by a name that stays the same
     * @param name what people call them
     * @param hops how they are reached, in order; none where they cannot be
     */
    record Recipient(String who, String name, @Nullable Long team, @Nullable Long person, List<Delivery.Hop> hops) {
        Delivery.To to() {
            return new Delivery.To(team, person, hops.getFirst(), hops.subList(1, hops.size()));
        }
    }

    /** Of what somebody is called. */
    record Called(Tier tier, Severity severity) {}

    /** @param missing why somebody who is meant is told nothing, in words; empty where all can be */
    record Meant(List<Recipient> reached, List<String> missing) {}

    /** All that is known now; whoever is on duty at any instant is looked up in it. */
    Now now() {
        var cards = people.cards().stream()
                .filter(People.Card::active)
                .collect(Collectors.toMap(one -> one.person().id(), Function.identity()));
        var gateway = connections.of(TextGateway.SORT).stream().findFirst().orElse(null);
        var outside = kinds.keySet().stream()
                .flatMap(sort -> connections.of(sort).stream())
                .collect(Collectors.toMap(Connection::id, Function.identity()));
        return new Now(cards, gateway, outside, desks.connected(), wishes.all(), hours.all());
    }

    /** As it is known at one time. */
    final class Now {
        private final Map<Long, People.Card> cards;
        private final @Nullable Connection gateway;
        private final Map<Long, Connection> outside;
        private final boolean desk;
        private final Map<Long, Wishes> wished;
        private final Map<Long, CallHours> agreed;
        private final Map<Long, Rota> known = new HashMap<>();

        private Now(
                Map<Long, People.Card> cards,
                @Nullable Connection gateway,
                Map<Long, Connection> outside,
                boolean desk,
                Map<Long, Wishes> wished,
                Map<Long, CallHours> agreed) {
            this.wished = wished;
            this.agreed = agreed;
            this.cards = cards;
            this.gateway = gateway;
            this.outside = outside;
            this.desk = desk;
        }

        /** Of what has no tier. */
        Meant of(Step step, Estate.@Nullable Team owner, Instant at) {
            return of(step, owner, null, at);
        }

        /**
         * @param owner  the team whose it is; null where it is nobody's yet
         * @param called of what they are called, for which they may be at some hours only; null where of no trouble
         */
        Meant of(Step step, Estate.@Nullable Team owner, @Nullable Called called, Instant at) {
            var reached = new ArrayList<Recipient>();
            var missing = new ArrayList<String>();
            switch (step.whom()) {
                case Whom.OnDuty(long id, int line) -> {
                    var team = team(id, owner);
                    if (team == null) missing.add("it belongs to no team yet");
                    else if (closed(team, called, at)) missing.add(closedWords(team, called));
                    else duty(team, line, step, at, reached, missing);
                }
                case Whom.Team(long id) -> {
                    var team = team(id, owner);
                    if (team == null) missing.add("it belongs to no team yet");
                    else if (closed(team, called, at)) missing.add(closedWords(team, called));
                    else if (team.mail().isEmpty()) missing.add(team.name() + " has no mail address");
                    else
                        reached.add(new Recipient(
                                "team " + team.id(),
                                "all of " + team.name(),
                                team.id(),
                                null,
                                List.of(Delivery.Hop.mail(team.mail()))));
                }
                case Whom.One(long id) -> person(id, null, step, reached, missing);
                case Whom.Role(String role) ->
                    cards.values().stream()
                            .filter(one -> one.person().role().name().equals(role))
                            .map(one -> one.person().id())
                            .sorted()
                            .forEach(id -> person(id, null, step, reached, missing));
                case Whom.Address(String mail) ->
                    reached.add(new Recipient("mail " + mail, mail, null, null, List.of(Delivery.Hop.mail(mail))));
                case Whom.Desk(long id) -> {
                    var team = team(id, owner);
                    if (team == null) missing.add("it belongs to no team yet");
                    else if (!desk) missing.add("no ticket desk is connected");
                    else
                        reached.add(new Recipient(
                                "desk " + team.id(),
                                "a ticket of " + team.name(),
                                team.id(),
                                null,
                                List.of(new Delivery.Hop(Way.DESK, team.name(), null))));
                }
                case Whom.Outside(long id) -> {
                    var one = outside.get(id);
                    if (one == null) missing.add("what was to be called is gone");
                    else
                        reached.add(new Recipient(
                                "outside " + id,
                                one.name(),
                                null,
                                null,
                                List.of(new Delivery.Hop(kinds.get(one.sort()), one.name(), id))));
                }
            }
            return new Meant(reached, missing);
        }

        /** Reads the rotas of all teams at once: for what asks of many. */
        Now withAllRotas() {
            rotas.of(estate.teams().stream().map(Estate.Team::id).toList())
                    .forEach((id, one) -> known.put(id, one.rota()));
            return this;
        }

        private boolean closed(Estate.Team team, @Nullable Called called, Instant at) {
            return called != null && hours(team).closed(called.tier(), called.severity(), at);
        }

        private CallHours hours(Estate.Team team) {
            return agreed.getOrDefault(team.id(), CallHours.ALWAYS);
        }

        private String closedWords(Estate.Team team, @Nullable Called called) {
            var tier = Objects.requireNonNull(called).tier();
            return "%s may be called for tier %d %s"
                    .formatted(team.name(), tier.number(), hours(team).words(tier));
        }

        private Estate.@Nullable Team team(long id, Estate.@Nullable Team owner) {
            return id == Whom.OWNER ? owner : estate.team(id).orElse(null);
        }

        private void duty(
                Estate.Team team, int line, Step step, Instant at, List<Recipient> reached, List<String> missing) {
            var rota = known.computeIfAbsent(team.id(), id -> rotas.of(id).rota());
            var person = line < rota.lines().size()
                    ? rota.duties(line, at, at.plusSeconds(1)).getFirst().person()
                    : null;
            if (person == null) missing.add("nobody is on duty in the " + Rota.LINES.get(line) + " of " + team.name());
            else person(person, team.id(), step, reached, missing);
        }

        private void person(long id, @Nullable Long team, Step step, List<Recipient> reached, List<String> missing) {
            var card = cards.get(id);
            if (card == null) return;
            var hops = new ArrayList<Delivery.Hop>();
            for (var way : wished.getOrDefault(id, Wishes.NONE).order(step.ways(), Function.identity())) {
                if (way == Way.MAIL && !card.mail().isEmpty()) hops.add(Delivery.Hop.mail(card.mail()));
                if (way == Way.TEXT && !card.phone().isEmpty() && gateway != null)
                    hops.add(new Delivery.Hop(Way.TEXT, card.phone(), gateway.id()));
            }
            var name = card.person().name();
            if (hops.isEmpty()) missing.add(name + " cannot be reached by " + ways(step.ways()));
            else reached.add(new Recipient("person " + id, name, team, id, hops));
        }

        private static String ways(List<Way> ways) {
            return ways.stream().map(Way::words).collect(Collectors.joining(" or "));
        }
    }
}
