package app.morvet.work.mending;

import org.springframework.stereotype.Service;

/** Connects a middleware from code, where an installation brings its own. */
@Service
public class MiddlewareSetup {
    private final SendingStore store;

    MiddlewareSetup(SendingStore store) {
        this.store = store;
    }

    /** All as in the settings of a connection; see Setup. */
    public void connect(long feed, String url, String sendPath, String headers) {
        store.keep(new SendingStore.Connection(feed, url, sendPath, headers, 0));
    }
}
