package app.morvet.core.callouts;

import app.morvet.core.duty.Rota;
import java.util.regex.Pattern;

/** Who is told in a step of a rule. */
public sealed interface Whom {
    /** The team of which a rule says that it owns what the case is about. */
    long OWNER = 0;

    /**
     * Whoever is on duty.
     *
     * @param team {@link #OWNER}, or one team whatever the case is about
     * @param line from 0
     */
    record OnDuty(long team, int line) implements Whom {
        public OnDuty {
            if (line < 0 || line >= Rota.MOST_LINES) throw new IllegalArgumentException("a rota has at most 3 lines");
        }
    }

    /** All of a team, by the mail address that the team has. */
    record Team(long team) implements Whom {}

    record One(long person) implements Whom {}

    /** All who have a role, such as {@code LEAD}. */
    record Role(String role) implements Whom {}

    /** A mail address that is nobody's own. */
    record Address(String mail) implements Whom {
        public Address {
            if (!mail.matches("[^@\\s]{1,100}@[^@\\s]{1,150}"))
                throw new IllegalArgumentException("\"" + mail + "\" is no mail address");
        }
    }

    /** Something outside that takes web calls, by the id of its connection. */
    record Outside(long connection) implements Whom {}

    /** Nobody is told: the case is handed off to a team, as a ticket with its evidence. */
    record Desk(long team) implements Whom {}

    /** Whether there is one way only, which follows from who it is. */
    default boolean hasOwnWay() {
        return this instanceof Outside || this instanceof Desk;
    }

    /** Whether it depends on whose it is who is meant. */
    default boolean isOwner() {
        return switch (this) {
            case OnDuty one -> one.team() == OWNER;
            case Team one -> one.team() == OWNER;
            case Desk one -> one.team() == OWNER;
            case One one -> false;
            case Role one -> false;
            case Address one -> false;
            case Outside one -> false;
        };
    }

    /** What ids are called. */
    interface Names {
        String team(long id);

        String person(long id);

        String role(String role);

        String connection(long id);
    }

    /** {@code duty 0 1}, {@code team 3}, {@code person 12}, {@code role LEAD}, {@code mail night@sundrava.example}, {@code outside 4} */
    default String code() {
        return switch (this) {
            case OnDuty(long team, int line) -> "duty " + team + " " + line;
            case Team(long team) -> "team " + team;
            case One(long person) -> "person " + person;
            case Role(String role) -> "role " + role;
            case Address(String mail) -> "mail " + mail;
            case Outside(long connection) -> "outside " + connection;
            case Desk(long team) -> "desk " + team;
        };
    }

    /** @throws IllegalArgumentException where a text is no {@linkplain #code code} */
    static Whom read(String code) {
        var found = Pattern.compile("(\\w+) (\\S+)(?: (\\d))?").matcher(code.strip());
        if (!found.matches()) throw new IllegalArgumentException("say who is told");
        var what = found.group(2);
        return switch (found.group(1)) {
            case "duty" -> new OnDuty(number(what), found.group(3) == null ? 0 : Integer.parseInt(found.group(3)));
            case "team" -> new Team(number(what));
            case "person" -> new One(number(what));
            case "role" -> new Role(what);
            case "mail" -> new Address(what);
            case "outside" -> new Outside(number(what));
            case "desk" -> new Desk(number(what));
            default -> throw new IllegalArgumentException("say who is told");
        };
    }

    private static long number(String text) {
        if (!text.matches("\\d{1,18}")) throw new IllegalArgumentException("say who is told");
        return Long.parseLong(text);
    }

    /** {@code the first line of its team}, {@code Freight Systems}, {@code all who are lead} */
    default String words(Names names) {
        return switch (this) {
            case OnDuty(long team, int line) ->
                "the " + Rota.LINES.get(line) + " of " + (team == OWNER ? "its team" : names.team(team));
            case Team(long team) -> team == OWNER ? "all of its team" : "all of " + names.team(team);
            case One(long person) -> names.person(person);
            case Role(String role) -> "all who are " + names.role(role);
            case Address(String mail) -> mail;
            case Outside(long connection) -> names.connection(connection);
            case Desk(long team) -> "hand it off to " + (team == OWNER ? "its team" : names.team(team));
        };
    }
}
