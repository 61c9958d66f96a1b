package app.morvet.work.cases;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Topic;
import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;

/** Reads cases from their rows. */
final class CaseRows {
    private CaseRows() {}

    static WorkCase workCase(ResultSet row, int number) throws SQLException {
        var reason = row.getString("settle_reason");
        return new WorkCase(
                row.getLong("id"),
                row.getLong("component_id"),
                Topic.parse(row.getString("topic")),
                Severity.valueOf(row.getString("severity")),
                row.getString("headline"),
                Stamp.in(row, "opened_at"),
                Stamp.in(row, "respond_by"),
                Stamp.in(row, "first_seen"),
                Stamp.in(row, "last_seen"),
                row.getLong("failures"),
                Stamp.orNull(row, "over_since"),
                new WorkCase.Progress(
                        CaseState.valueOf(row.getString("state")),
                        row.getObject("taken_by", Long.class),
                        Stamp.orNull(row, "quiet_until"),
                        row.getBoolean("returned"),
                        row.getString("return_reason"),
                        Stamp.orNull(row, "settled_at"),
                        reason == null ? null : SettleReason.valueOf(reason)),
                row.getInt("version"));
    }
}
