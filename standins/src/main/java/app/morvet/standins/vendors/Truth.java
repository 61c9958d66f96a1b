package app.morvet.standins.vendors;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is true of a vendor, and what it says of it.
 *
 * @param level how well its instance does: 0 well, 1 slowly, 2 not at all
 * @param said  what its feed says of that
 * @param feed  how its feed is
 * @param notes what it has written, the oldest first
 */
record Truth(int level, int said, Feed feed, List<Note> notes) {
    /** How a feed may be. */
    enum Feed {
        WELL("as it should be"),
        BROKEN("answers an error page"),
        ANOTHER_SHAPE("has another shape than before"),
        UNKNOWN_WORD("uses a word that nobody knows"),
        OLD("says that it was made hours ago");

        private final String words;

        Feed(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /**
     * @param planned whether it is planned work
     * @param to      of planned work its end
     * @param closed  whether it is over, or called off
     */
    record Note(
            String id,
            boolean planned,
            String title,
            String text,
            Instant from,
            @Nullable Instant to,
            Instant updated,
            boolean closed) {
        Note closed(Instant at) {
            return new Note(id, planned, title, text, from, to, at, true);
        }

        Note with(String otherText, Instant at) {
            return new Note(id, planned, title, otherText, from, to, at, closed);
        }

        Note during(Instant otherFrom, Instant otherTo, Instant at) {
            return new Note(id, planned, title, text, otherFrom, otherTo, at, closed);
        }
    }

    Truth with(List<Note> other) {
        return new Truth(level, said, feed, List.copyOf(other));
    }

    Truth at(int otherLevel, int otherSaid) {
        return new Truth(otherLevel, otherSaid, feed, notes);
    }

    Truth by(Feed other) {
        return new Truth(level, said, other, notes);
    }
}
