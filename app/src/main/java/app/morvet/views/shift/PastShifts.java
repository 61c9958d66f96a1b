package app.morvet.views.shift;

import java.time.Instant;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Shifts of the past, as they would have been live. */
@Service
public class PastShifts {
    private final Handovers handovers;
    private final ShiftNotes notes;

    PastShifts(Handovers handovers, ShiftNotes notes) {
        this.handovers = handovers;
        this.notes = notes;
    }

    /** Somebody took over, with whatever was written for them. */
    @Transactional
    public void taken(long person, Instant at) {
        handovers.take(person, at);
    }

    @Transactional
    public void noted(long person, String words, Instant at) {
        notes.write(person, words, true, null, at);
    }

    /** Somebody noted something, and when to look at it again. */
    @Transactional
    public void noted(long person, String words, Instant remind, Instant at) {
        notes.write(person, words, false, remind, at);
    }

    @Transactional
    public void handedOver(long person, String words, Instant at) {
        handovers.write(person, words, 0, at);
    }
}
