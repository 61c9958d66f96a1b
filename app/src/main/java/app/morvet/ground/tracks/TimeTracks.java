package app.morvet.ground.tracks;

import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.Track;
import app.morvet.ground.estate.Estate;
import java.util.Collection;
import java.util.List;

/** What a feature knows of components over time: it is drawn under a case and on the page of a component. */
public interface TimeTracks {

    /**
     * What is looked at.
     *
     * @param of     the components themselves
     * @param around those, and what they stand on and need
     */
    record Looked(List<Estate.Component> of, Collection<Estate.Component> around) {
        public Looked {
            of = List.copyOf(of);
            around = List.copyOf(around);
        }

        /** {@code runs}, or where more than one is looked at {@code runs of Rate fares}. */
        public String name(String what, Estate.Component one) {
            return of.size() == 1 ? what : what + " of " + one.name();
        }

        public List<Long> ids() {
            return of.stream().map(Estate.Component::id).toList();
        }
    }

    /** Tracks with nothing on the axis may be among them. */
    default List<Track> tracks(Looked at, Axis axis) {
        return List.of();
    }

    /** What is hatched through all tracks. */
    default List<Track.Span> hatched(Looked at, Axis axis) {
        return List.of();
    }
}
