package app.morvet.rules.guards;

/** A guard was made, changed, switched or deleted. */
record GuardChanged(long guard) {}
