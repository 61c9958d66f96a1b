package app.morvet.work.cases;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Lists of cases that somebody looks at again and again, each under a name of their own. */
@Repository
class CaseFilters {
    private static final int MOST = 20;
    private static final int LONGEST = 40;

    /** @param address with all that is asked for */
    record Kept(String name, String address) {}

    private final JdbcClient jdbc;

    CaseFilters(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** By name. */
    List<Kept> of(long person) {
        return jdbc.sql("select name, address from case_filter where person_id = :person order by lower(name), name")
                .param("person", person)
                .query(Kept.class)
                .list();
    }

    /**
     * Keeps one; another of the same name is replaced.
     *
     * @throws IllegalArgumentException where it has no name, or there are too many; says what
     */
    @Transactional
    void keep(long person, String typed, String address) {
        var name = typed.strip();
        if (name.isEmpty() || name.length() > LONGEST)
            throw new IllegalArgumentException("Give the list a name of at most %d characters.".formatted(LONGEST));
        var kept = of(person);
        if (kept.size() >= MOST && kept.stream().noneMatch(one -> one.name().equals(name)))
            throw new IllegalArgumentException(
                    "You keep %d lists already; take one of them away first.".formatted(MOST));
        jdbc.sql(
                        """
                        insert into case_filter (person_id, name, address) values (:person, :name, :address)
                            on conflict (person_id, name) do update set address = excluded.address""")
                .param("person", person)
                .param("name", name)
                .param("address", address)
                .update();
    }

    void drop(long person, String name) {
        jdbc.sql("delete from case_filter where person_id = :person and name = :name")
                .param("person", person)
                .param("name", name)
                .update();
    }
}
