package app.morvet.alerting.alerts;

import app.morvet.core.alert.Origin;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Service;

/** All sorts of rules that raise alerts, by what raised one. */
@Service
public class Origins {
    private final ObjectProvider<OriginKind> found;
    private volatile Map<String, OriginKind> kinds = Map.of();

    /** They raise alerts, and so come after the desk; they are looked at when the first is asked for. */
    Origins(ObjectProvider<OriginKind> found) {
        this.found = found;
    }

    public OriginKind of(Alert alert) {
        return of(alert.origin());
    }

    OriginKind of(Origin origin) {
        var known = kinds.isEmpty() ? kinds = read(found.orderedStream().toList()) : kinds;
        var kind = known.get(origin.kind());
        if (kind == null) throw new IllegalStateException("nothing here raises alerts of the kind " + origin.kind());
        return kind;
    }

    private static Map<String, OriginKind> read(List<OriginKind> kinds) {
        return kinds.stream().collect(Collectors.toUnmodifiableMap(OriginKind::kind, Function.identity()));
    }
}
