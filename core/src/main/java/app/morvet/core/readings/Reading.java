package app.morvet.core.readings;

import java.time.Instant;

/**
 * One value at one instant.
 *
 * @param at    event time, kept to the microsecond
 * @param value finite, in the unit of its measure
 */
public record Reading(Instant at, double value) {
    public Reading {
        if (!Double.isFinite(value)) throw new IllegalArgumentException("a reading is a finite number, was " + value);
    }
}
