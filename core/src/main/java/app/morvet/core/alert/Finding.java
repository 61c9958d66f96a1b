package app.morvet.core.alert;

import java.time.Instant;

/**
 * What an origin finds wrong now.
 *
 * @param key      what it is one alert for, within its origin
 * @param value    the measured value; NaN where there is none
 * @param words    what is wrong, in one line
 * @param since    since when; where that lies ahead of now, now
 * @param occasion which occurrence it is, such as one start of a job: the same trouble on another occasion is trouble anew,
 *                 even where nobody saw it go in between; empty where there is only one
 */
public record Finding(
        Origin origin,
        String key,
        About about,
        Severity level,
        double value,
        String words,
        Instant since,
        String occasion) {}
