package app.morvet.core.checks;

import java.time.Duration;

/**
 * What came back.
 *
 * @param code of HTTP; 0 where that is not what was spoken
 * @param body as text; of a port its first line
 * @param took from asking to the end of the answer
 */
public record Answer(int code, String body, Duration took) {}
