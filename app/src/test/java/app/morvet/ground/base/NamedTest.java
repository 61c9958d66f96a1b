package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class NamedTest {
    @Test
    void fewAreNamedAllAndOfManyTheFirst() {
        assertThat(Named.of(List.of("a")).counted("job", "jobs")).isEqualTo("1 job: a.");
        var many = IntStream.range(0, 12).mapToObj(it -> "n" + it).toList();
        assertThat(Named.of(many, 3).counted("job", "jobs")).isEqualTo("12 jobs: n0, n1, n2 …");
        assertThat(Named.of(many.subList(0, 3), 3).list()).isEqualTo("n0, n1, n2");
        assertThat(Named.of(List.of()).none()).isTrue();
    }
}
