package app.morvet.sources.sorting;

import app.morvet.core.alert.Severity;
import app.morvet.core.sorting.Criteria;
import app.morvet.core.sorting.FoldBy;
import app.morvet.core.sorting.FoldWindow;
import java.time.Instant;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A sorting rule as it stands in the list.
 *
 * @param owner       id of the team that owns what it takes, in place of the application's; or null
 * @param fixNote     Markdown
 * @param alerts      whether it alerts, or what it takes is only counted
 * @param sendAgain   whether what it takes may be sent again
 * @param explainedBy kinds of components whose open trouble explains what it takes
 * @param lastTook    when it last took a message, or null
 * @param stopped     how often it had to be stopped
 * @param stoppedAt   when that last was, or null
 */
public record StoredRule(
        long id,
        String name,
        Criteria criteria,
        Severity severity,
        @Nullable Long owner,
        String fixNote,
        boolean alerts,
        FoldBy foldBy,
        FoldWindow foldFor,
        boolean sendAgain,
        Set<String> explainedBy,
        @Nullable Instant lastTook,
        long stopped,
        @Nullable Instant stoppedAt) {
    public StoredRule {
        if (name.isBlank() || name.length() > 100)
            throw new IllegalArgumentException("a rule has a name of at most 100 characters");
        if (fixNote.length() > 20_000)
            throw new IllegalArgumentException(
                    "a fix note has at most 20,000 characters, this has " + fixNote.length());
        explainedBy = Set.copyOf(explainedBy);
    }

    /** The same rule under another id. */
    public StoredRule withId(long other) {
        return new StoredRule(
                other,
                name,
                criteria,
                severity,
                owner,
                fixNote,
                alerts,
                foldBy,
                foldFor,
                sendAgain,
                explainedBy,
                lastTook,
                stopped,
                stoppedAt);
    }

    /** Whether two rules would do the same, whatever they have done so far. */
    public boolean doesAs(StoredRule other) {
        return name.equals(other.name)
                && criteria.equals(other.criteria)
                && severity == other.severity
                && java.util.Objects.equals(owner, other.owner)
                && fixNote.equals(other.fixNote)
                && alerts == other.alerts
                && foldBy == other.foldBy
                && foldFor.equals(other.foldFor)
                && sendAgain == other.sendAgain
                && explainedBy.equals(other.explainedBy);
    }
}
