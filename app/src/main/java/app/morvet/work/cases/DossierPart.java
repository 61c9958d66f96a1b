package app.morvet.work.cases;

import java.util.Optional;

/** What a feature further down adds to the dossier of a case: the handoffs show its tickets, the call-outs its mails. */
public interface DossierPart {

    /**
     * @param template the fragment that draws it, taking {@code part}
     * @param content  what the fragment shows
     */
    record Part(String template, Object content) {}

    /** The topic of {@link app.morvet.ground.page.Live} on which it changes; empty where it changes with the case only. */
    default String liveTopic() {
        return "";
    }

    /** Empty when there is nothing to show. */
    Optional<Part> of(WorkCase shown);
}
