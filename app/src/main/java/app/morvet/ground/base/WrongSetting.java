package app.morvet.ground.base;

import org.springframework.boot.diagnostics.AbstractFailureAnalyzer;
import org.springframework.boot.diagnostics.FailureAnalysis;

/** A setting with which Morvet does not start. Whoever starts it is told which and how to mend it, and not where in the code it was seen. */
public final class WrongSetting extends IllegalArgumentException {
    private static final long serialVersionUID = 1;

    private final String remedy;

    /**
     * @param setting its whole name
     * @param what    is wrong with it
     * @param remedy  what to do
     */
    public WrongSetting(String setting, String what, String remedy) {
        super(setting + ": " + what);
        this.remedy = remedy;
    }

    /** Found by Spring Boot in {@code META-INF/spring.factories}. */
    static final class Told extends AbstractFailureAnalyzer<WrongSetting> {
        @Override
        protected FailureAnalysis analyze(Throwable whole, WrongSetting wrong) {
            return new FailureAnalysis(wrong.getMessage(), wrong.remedy, wrong);
        }
    }
}
