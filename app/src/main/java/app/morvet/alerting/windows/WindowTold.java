package app.morvet.alerting.windows;

import app.morvet.core.windows.Telling;
import java.time.Instant;

/** There is something to tell the teams concerned of one time of a window; told within the transaction that notes it. */
public record WindowTold(StoredWindow window, Telling.Told told, Instant at) {}
