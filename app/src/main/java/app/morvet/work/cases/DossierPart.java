package app.morvet.work.cases;

import java.util.Optional;

/** What a feature further down adds to the dossier of a case: the handoffs show its tickets, the call-outs its mails. */
public interface DossierPart {

    /**
     * @param template the fragment that draws it, taking {@code part}
     * @param content  what the fragment shows
     */
    record Part(String template, Object content) {}

    /** Empty when there is nothing to show. */
    Optional<Part> of(WorkCase shown);
}
