package app.morvet.ground;

import app.morvet.work.cases.WorkCase;

/** Takes from a floor above its own, so that a test can show that this is seen. */
public record FromAbove(WorkCase taken) {}
