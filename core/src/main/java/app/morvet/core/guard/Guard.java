package app.morvet.core.guard;

/**
 * A standing rule. Closed, so that the compiler finds every place that forgot a kind; each kind is a record of what its
 * sentence says and nothing else.
 */
public sealed interface Guard permits LimitGuard {}
