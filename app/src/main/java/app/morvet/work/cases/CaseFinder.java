package app.morvet.work.cases;

import app.morvet.ground.page.Finder;
import app.morvet.ground.page.Times;
import java.util.List;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Cases, by words or by their number. */
@Component
@Order(1)
class CaseFinder implements Finder {
    private final CaseStore store;
    private final Times times;

    CaseFinder(CaseStore store, Times times) {
        this.store = store;
        this.times = times;
    }

    @Override
    public String name() {
        return "Cases";
    }

    @Override
    public String hint() {
        return "words of a case's headline or its number";
    }

    /** The one of that number first, then the open ones. */
    @Override
    public List<Hit> find(String words, int most) {
        return store.search(words, most).stream()
                .map(one -> new Hit(
                        "/cases/" + one.id(), one.headline(), one.state().words() + " · " + times.of(one.openedAt())))
                .toList();
    }
}
