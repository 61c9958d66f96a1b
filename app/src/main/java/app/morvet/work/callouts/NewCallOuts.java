package app.morvet.work.callouts;

import app.morvet.ground.base.Stamp;
import app.morvet.ground.page.NewSince;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** How many people were called out while somebody was away. */
@Component
class NewCallOuts implements NewSince {
    private final JdbcClient jdbc;

    NewCallOuts(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public List<Line> since(Instant since) {
        long called = jdbc.sql(
                        """
                        select count(*) from delivery
                         where made_at >= :since and about in ('OPENED', 'LATE', 'RETURNED', 'NOT_ACCEPTED') and way <> 'DESK'""")
                .param("since", Stamp.of(since))
                .query(Long.class)
                .single();
        return called == 0
                ? List.of()
                : List.of(new Line(NewSince.words(called, "call-out", "call-outs"), "/callouts"));
    }
}
