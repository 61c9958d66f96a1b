package app.morvet;

import org.junit.jupiter.api.Test;
import org.springframework.modulith.core.ApplicationModules;

class HouseTest {
    @Test
    void featuresKeepToTheirModulesAndNothingWalksBack() {
        ApplicationModules.of(MorvetApplication.class).verify();
    }
}
