package app.morvet.views.shift;

import app.morvet.core.shift.Mentions;
import app.morvet.ground.access.People;
import app.morvet.ground.estate.Estate;
import app.morvet.work.cases.CaseBook;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** The words of notes, with links to the cases and components that they name. */
@Component
class NoteWords {
    /** @param link empty for what leads nowhere; {@code person} whether it names one */
    record Piece(String words, String link, boolean person) {}

    private final CaseBook cases;
    private final Estate estate;
    private final People people;

    NoteWords(CaseBook cases, Estate estate, People people) {
        this.cases = cases;
        this.estate = estate;
        this.people = people;
    }

    /** Reads notes; who is there is asked for once. */
    Function<String, List<Piece>> reader() {
        var logins = people.all().stream().map(one -> one.login()).collect(Collectors.toSet());
        var known = new Mentions.Known(id -> cases.find(id).isPresent(), logins::contains, key -> estate.byKey(key)
                .isPresent());
        return words -> pieces(words, known);
    }

    private static List<Piece> pieces(String words, Mentions.Known known) {
        return Mentions.in(words, known).stream()
                .map(one -> switch (one.kind()) {
                    case TEXT -> new Piece(one.words(), "", false);
                    case CASE -> new Piece(one.words(), "/cases/" + one.of(), false);
                    case PERSON -> new Piece(one.words(), "", true);
                    case COMPONENT -> new Piece(one.words(), "/estate/components/" + one.of(), false);
                })
                .toList();
    }
}
