package app.morvet.sources.batch;

/** Something was told of runs. Published inside the transaction that stores it. */
public record RunsRecorded() {}
