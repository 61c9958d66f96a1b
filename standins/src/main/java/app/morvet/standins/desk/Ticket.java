package app.morvet.standins.desk;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A ticket as the desk keeps it.
 *
 * @param state {@code open}, {@code accepted}, {@code returned} or {@code done}
 */
record Ticket(
        String number,
        String key,
        String summary,
        String description,
        String group,
        String caller,
        String link,
        String callback,
        List<Map<String, Object>> evidence,
        @Nullable List<Map<String, Object>> attachments,
        String state,
        String reason,
        Instant openedAt) {

    Ticket in(String state, String reason) {
        return new Ticket(
                number,
                key,
                summary,
                description,
                group,
                caller,
                link,
                callback,
                evidence,
                attachments,
                state,
                reason,
                openedAt);
    }
}
