package app.morvet.views.links;

import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Where to look further from a case. */
@Component
@Order(4)
class LinksPart implements DossierPart {
    private final LinksOut links;

    LinksPart(LinksOut links) {
        this.links = links;
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var some = links.of(shown);
        return some.isEmpty() ? Optional.empty() : Optional.of(new Part("link-parts :: dossier", some));
    }
}
