package app.morvet.guards;

import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Watched;

/**
 * A guard as it stands: its rule, what it watches, and what to do when it calls.
 *
 * @param active  whether it is switched on
 * @param fixNote Markdown
 * @param version counts its changes, from 1
 */
public record StandingGuard(
        long id, String name, boolean active, Watched watched, Guard rule, String fixNote, int version) {}
