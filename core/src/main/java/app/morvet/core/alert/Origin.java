package app.morvet.core.alert;

/**
 * What raised an alert: a guard, a sorting rule, a guard over runs.
 *
 * @param kind which sort of rule it is, by the name under which its package is known to the spine; not blank
 * @param id   which one of them
 */
public record Origin(String kind, long id) {
    public Origin {
        if (kind.isBlank()) throw new IllegalArgumentException("an origin is of a kind");
    }
}
