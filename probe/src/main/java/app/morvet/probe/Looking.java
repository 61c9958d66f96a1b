package app.morvet.probe;

import app.morvet.core.checks.Result;
import app.morvet.core.checks.Target;
import java.io.IOException;
import java.security.GeneralSecurityException;

/** How one kind of target is looked at; one class for each. */
public interface Looking<T extends Target> {
    Class<T> of();

    /**
     * @param watch runs from when it began
     * @throws IOException              where there is no answer
     * @throws IllegalArgumentException where it may not be looked at, or gives none that can be read; says why
     */
    Result at(T target, Around around, Watch watch) throws IOException, InterruptedException, GeneralSecurityException;
}
