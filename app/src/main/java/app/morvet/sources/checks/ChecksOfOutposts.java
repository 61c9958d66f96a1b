package app.morvet.sources.checks;

import app.morvet.core.checks.Result;
import app.morvet.sources.outposts.Outpost;
import app.morvet.sources.outposts.OutpostView;
import java.util.List;
import org.springframework.stereotype.Component;

/** The checks that an outpost makes, on its page. */
@Component
class ChecksOfOutposts implements OutpostView {
    private final CheckStore store;

    ChecksOfOutposts(CheckStore store) {
        this.store = store;
    }

    @Override
    public List<Part> of(Outpost outpost) {
        var lines = store.of(outpost.id()).stream()
                .map(StoredCheck.Due::check)
                .map(one -> {
                    var last = one.last();
                    return new Line(
                            last == null ? "nodata" : last.state().equals(Result.PASSED) ? "steady" : "warning",
                            one.name(),
                            (last == null ? "not run yet" : last.state()) + ", "
                                    + one.look().words(),
                            "/services/checks/" + one.id() + "/edit");
                })
                .toList();
        return lines.isEmpty() ? List.of() : List.of(new Part("Its checks", lines));
    }
}
