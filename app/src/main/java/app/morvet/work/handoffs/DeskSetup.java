package app.morvet.work.handoffs;

import org.springframework.stereotype.Service;

/** Connects a ticket desk from code, where an installation brings its own. */
@Service
public class DeskSetup {
    private final HandoffStore store;

    DeskSetup(HandoffStore store) {
        this.store = store;
    }

    /** All as in the settings of a connection; see Setup. */
    public void connect(
            String key,
            String name,
            String url,
            String createPath,
            String readPath,
            String pagePath,
            String headers,
            String template,
            String numberPath,
            String statePath,
            String reasonPath,
            String states,
            String secret,
            int pollSeconds) {
        store.keep(new DeskConnection(
                0,
                key,
                name,
                url,
                createPath,
                readPath,
                headers,
                template,
                numberPath,
                statePath,
                reasonPath,
                states,
                pagePath,
                secret,
                pollSeconds,
                0));
    }
}
