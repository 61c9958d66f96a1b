package app.morvet.sources.changes;

import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.Masks;
import java.util.List;
import org.springframework.stereotype.Component;

/** Changes as pages show them, with what masks hide taken out. */
@Component
public class ChangeViews {
    public record Row(long id, String at, String key, String component, String words, String by, String note) {}

    private final Estate estate;
    private final Masks masks;
    private final Times times;

    ChangeViews(Estate estate, Masks masks, Times times) {
        this.estate = estate;
        this.masks = masks;
        this.times = times;
    }

    public List<Row> rows(List<Changes.Observed> some) {
        var masking = masks.anywhere();
        return some.stream()
                .map(one -> {
                    var component = estate.component(one.component());
                    var change = one.change();
                    return new Row(
                            one.id(),
                            times.of(change.at()),
                            component.key(),
                            component.name(),
                            masking.text(change.words()).text(),
                            masking.text(change.by()).text(),
                            masking.text(change.note()).text());
                })
                .toList();
    }
}
