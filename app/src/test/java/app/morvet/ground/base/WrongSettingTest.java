package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Objects;
import org.junit.jupiter.api.Test;
import org.springframework.boot.diagnostics.FailureAnalyzer;
import org.springframework.core.io.support.SpringFactoriesLoader;

class WrongSettingTest {
    @Test
    void whoStartsMorvetIsToldWhichItIsAndWhatToDo() {
        var wrong =
                new IllegalStateException("not started", new WrongSetting("morvet.one", "is no number", "Write 3."));
        var told =
                SpringFactoriesLoader.forDefaultResourceLocation()
                        .load(FailureAnalyzer.class, (factory, name, others) -> {})
                        .stream()
                        .filter(one -> one instanceof WrongSetting.Told)
                        .map(one -> one.analyze(wrong))
                        .filter(Objects::nonNull)
                        .toList();
        assertThat(told).singleElement().satisfies(one -> {
            assertThat(one.getDescription()).isEqualTo("morvet.one: is no number");
            assertThat(one.getAction()).isEqualTo("Write 3.");
        });
    }
}
