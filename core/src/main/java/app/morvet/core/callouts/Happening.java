package app.morvet.core.callouts;

import java.util.List;
import java.util.stream.Stream;

/** What happens, of which a rule has people told. */
public enum Happening {
    /** It is as bad as the rule asks, for the first time since it was last over: it opened so, rose so, or came back. */
    OPENED("opens", About.CASE),
    /** Nobody has taken it within its response time. */
    LATE("is not taken in time", About.CASE),
    /** The team that it was handed to gave it back. */
    RETURNED("is returned by its team", About.CASE),
    /** The team that it was handed to has not accepted it within its response time. */
    NOT_ACCEPTED("is handed off and not accepted in time", About.CASE),
    /** Nothing of it is wrong any more. */
    OVER("is over", About.CASE),
    WINDOW("has a window that begins or ends", About.COMPONENTS),
    /** Of trouble or of planned work, each version. */
    BULLETIN("is written about by its vendor", About.COMPONENTS),
    /** A version, a file, a setting was observed to be another than before, or a deployment was told. */
    CHANGED("is changed or deployed to", About.COMPONENTS),
    NEW("is new in the estate", About.COMPONENTS),
    /** People, keys, connections: what only admins change. */
    SETUP("an admin changes what is set up", About.ALL),
    UNDELIVERED("a message cannot be delivered", About.ALL);

    /** What it is about. */
    public enum About {
        CASE,
        COMPONENTS,
        /** Morvet itself, and no part of the estate. */
        ALL
    }

    private final String words;
    private final About about;

    Happening(String words, About about) {
        this.words = words;
        this.about = about;
    }

    public String words() {
        return words;
    }

    public About about() {
        return about;
    }

    /** Whether it is something about a case, which somebody may have to take. */
    public boolean isOfCase() {
        return about == About.CASE;
    }

    /** Those about cases. */
    public static List<Happening> ofCases() {
        return Stream.of(values()).filter(Happening::isOfCase).toList();
    }

    /** Whether somebody is needed still for what happened. */
    boolean calls(Standing now) {
        return switch (this) {
            case OPENED, LATE -> !now.over() && !now.taken() && !now.handedOff();
            case RETURNED -> !now.over() && now.returned();
            case NOT_ACCEPTED -> !now.over() && now.handedOff();
            case OVER -> now.over();
            case WINDOW, BULLETIN, CHANGED, NEW, SETUP, UNDELIVERED -> false;
        };
    }
}
