package app.morvet;

import com.tngtech.archunit.core.domain.JavaClass;
import org.junit.jupiter.api.Test;
import org.springframework.modulith.core.ApplicationModules;

class HouseTest {
    @Test
    void featuresKeepToTheirModulesAndNothingWalksBack() {
        // Core is a library of its own build, open to all features.
        var core = JavaClass.Predicates.resideInAPackage("app.morvet.core..");
        ApplicationModules.of(MorvetApplication.class, core).verify();
    }
}
