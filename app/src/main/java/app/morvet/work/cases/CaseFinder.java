package app.morvet.work.cases;

import app.morvet.ground.page.Finder;
import app.morvet.ground.page.Times;
import java.util.List;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Cases, by words or by their number. */
@Component
@Order(1)
class CaseFinder implements Finder {
    private final JdbcClient jdbc;
    private final Times times;

    CaseFinder(JdbcClient jdbc, Times times) {
        this.jdbc = jdbc;
        this.times = times;
    }

    @Override
    public String name() {
        return "Cases";
    }

    @Override
    public String hint() {
        return "words of a case's headline or its number";
    }

    /** The one of that number first, then the open ones. */
    @Override
    public List<Hit> find(String words, int most) {
        return named(words, most).stream()
                .map(one -> new Hit(
                        "/cases/" + one.id(), one.headline(), one.state().words() + " · " + times.of(one.openedAt())))
                .toList();
    }

    private List<WorkCase> named(String words, int size) {
        return jdbc.sql(
                        """
                        select * from work_case
                         where headline ilike '%' || :words || '%' or id::text = :number
                         order by id::text = :number desc, state = 'SETTLED', opened_at desc
                         limit :size""")
                .param("words", words.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_"))
                .param("number", words)
                .param("size", size)
                .query(CaseRows::workCase)
                .list();
    }
}
