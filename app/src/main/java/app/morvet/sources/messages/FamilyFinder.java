package app.morvet.sources.messages;

import app.morvet.ground.page.Finder;
import app.morvet.ground.page.Times;
import java.util.List;
import java.util.Locale;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Failure families, by words of what stays of their error. */
@Component
@Order(4)
class FamilyFinder implements Finder {
    private final FamilyStore store;
    private final Families families;
    private final Times times;

    FamilyFinder(FamilyStore store, Families families, Times times) {
        this.store = store;
        this.families = families;
        this.times = times;
    }

    @Override
    public String name() {
        return "Failure families";
    }

    @Override
    public String hint() {
        return "words of an error";
    }

    @Override
    public List<Hit> find(String words, int most) {
        var asked = List.of(words.toLowerCase(Locale.ROOT).split("\\s+"));
        return store.with(asked, most).stream()
                // By what is hidden nothing is found: that would tell it.
                .filter(one -> {
                    var shown = families.hidden(one.skeleton()).toLowerCase(Locale.ROOT);
                    return asked.stream().allMatch(shown::contains);
                })
                .map(one -> new Hit(
                        "/messages/families/" + one.id(),
                        families.hidden(Families.firstLine(one.skeleton())),
                        "first seen at " + times.of(one.firstSeen())))
                .toList();
    }
}
