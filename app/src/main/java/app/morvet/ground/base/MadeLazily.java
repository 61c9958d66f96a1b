package app.morvet.ground.base;

import java.util.AbstractList;
import java.util.List;
import java.util.function.Function;

/**
 * A list each of whose items is made of the one in the same place of another when it is looked at, and each time anew: a page shows a few of
 * many that are in order already.
 */
public final class MadeLazily<S, T> extends AbstractList<T> {
    private final List<S> of;
    private final Function<? super S, ? extends T> make;

    public MadeLazily(List<S> of, Function<? super S, ? extends T> make) {
        this.of = of;
        this.make = make;
    }

    @Override
    public T get(int place) {
        return make.apply(of.get(place));
    }

    @Override
    public int size() {
        return of.size();
    }
}
