package app.morvet.rules.guards;

import app.morvet.ground.page.NowSource;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** What cannot be judged on this node: set aside, so that it keeps nothing else from being, and said on the now line. */
@Component
class SetAside implements NowSource {
    private static final Logger log = LoggerFactory.getLogger(SetAside.class);

    private final Set<GuardStore.Key> aside = ConcurrentHashMap.newKeySet();

    void put(GuardStore.Key key, RuntimeException why) {
        if (aside.add(key)) log.error("guard {} cannot judge series {}", key.guard(), key.series(), why);
    }

    void judged(GuardStore.Key key) {
        if (!aside.isEmpty()) aside.remove(key);
    }

    /** What is watched has changed: all of it is tried again. */
    void clear() {
        aside.clear();
    }

    @Override
    public List<NowItem> now() {
        if (aside.isEmpty()) return List.of();
        int count = aside.size();
        var words = count == 1 ? "1 series cannot be judged" : count + " series cannot be judged";
        return List.of(new NowItem("warning", words, "/guards"));
    }
}
