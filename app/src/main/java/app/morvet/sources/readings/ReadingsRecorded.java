package app.morvet.sources.readings;

/**
 * Readings are stored that were not known before. Published inside the transaction that stores them.
 *
 * @param series ids, one for each reading
 * @param times  microseconds since 1970
 * @param values as many
 */
public record ReadingsRecorded(long[] series, long[] times, double[] values) {}
