package app.morvet.views.windows;

import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.estate.Scope;
import app.morvet.ground.estate.Estate;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/** Which components a scope takes in, and in which applications; kept by scope, since a calendar asks for hundreds. */
@Component
public class WindowReach {
    private static final int MOST_KEPT = 2000;

    private static final int NAMED = 8;

    /**
     * @param components by their ids
     * @param names      of the first few
     * @param applications by name
     */
    record Reach(BitSet components, List<String> names, Set<String> applications) {
        int count() {
            return components.cardinality();
        }
    }

    private final Windows windows;
    private final Estate estate;
    private final Map<Scope, Reach> kept = new ConcurrentHashMap<>();

    WindowReach(Windows windows, Estate estate) {
        this.windows = windows;
        this.estate = estate;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMPLETION, fallbackExecution = true)
    void on(Estate.EstateChanged changed) {
        kept.clear();
    }

    String applicationOf(Estate.Component one) {
        return estate.applicationOf(one).map(Estate.Application::name).orElse("not assigned");
    }

    /** The application of a component that is called by its key or its name. */
    Optional<String> applicationOf(String called) {
        return estate.byKey(called)
                .or(() -> estate.components().stream()
                        .filter(one -> one.name().equalsIgnoreCase(called))
                        .findFirst())
                .map(this::applicationOf);
    }

    String nameOf(String application) {
        return estate.nameOf(application);
    }

    /** The names of the applications that a window takes something of; what belongs to none is of "not assigned". */
    public Set<String> applications(StoredWindow one) {
        return of(one).applications();
    }

    Reach of(StoredWindow one) {
        return of(one.window().scope());
    }

    Reach of(Scope scope) {
        var known = kept.get(scope);
        if (known != null) return known;
        var components = new BitSet();
        var names = new ArrayList<String>();
        var applications = new LinkedHashSet<String>();
        for (var one : estate.components()) {
            if (!scope.takes(windows.factsOf(one))) continue;
            components.set((int) one.id());
            if (names.size() < NAMED) names.add(one.name());
            applications.add(applicationOf(one));
        }
        var found = new Reach(components, List.copyOf(names), applications);
        if (kept.size() >= MOST_KEPT) kept.clear();
        kept.put(scope, found);
        return found;
    }
}
