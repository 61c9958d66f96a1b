package app.morvet.core.guard;

import java.time.Duration;

/**
 * Watches what the readings of a window amount to against limits.
 *
 * @param window which readings are taken together
 * @param amount what is made of them
 * @param limits what it is held against, in the unit of the measure; in per cent where the amount has a ceiling
 */
public record LimitGuard(Window window, Amount amount, Limits limits, Terms terms) implements Guard {
    @Override
    public Guard withLimits(Limits other) {
        return new LimitGuard(window, amount, other, terms);
    }

    @Override
    public Duration reach() {
        var base = amount.fold() == Amount.Fold.RATE || amount.fold() == Amount.Fold.CHANGE
                ? window.reach().multipliedBy(2)
                : window.reach();
        var silence = terms.noData().after();
        return base.compareTo(silence) > 0 ? base : silence;
    }
}
