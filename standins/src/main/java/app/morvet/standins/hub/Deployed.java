package app.morvet.standins.hub;

import java.time.Instant;

/** From when on an interface ran in a version. */
record Deployed(String carrier, Instant from, String version) {}
