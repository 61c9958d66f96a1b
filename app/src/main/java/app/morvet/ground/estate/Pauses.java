package app.morvet.ground.estate;

import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;

/** Whatever asks of its own asks here first whether it should. */
@Component
public class Pauses {
    private final ObjectProvider<Paused> all;
    private final Estate estate;

    Pauses(ObjectProvider<Paused> all, Estate estate) {
        this.all = all;
        this.estate = estate;
    }

    public boolean any() {
        return all.stream().anyMatch(Paused::any);
    }

    /** @param component by its id */
    public boolean component(long component) {
        return any() && all.stream().anyMatch(one -> one.now(estate.component(component)));
    }

    public boolean feed(long id) {
        return any() && all.stream().anyMatch(one -> one.feed(id));
    }
}
