package app.morvet.work.cases;

import app.morvet.sources.messages.MessageScope;
import java.time.Instant;
import java.util.List;

/**
 * Somebody settled a case. Published inside the transaction that does it.
 *
 * @param one    as it was before
 * @param scopes which failed messages it was about
 * @param person id of who settled it
 * @param reason in words
 */
public record CaseSettled(
        WorkCase one, List<MessageScope> scopes, long person, String reason, String why, Instant at) {}
