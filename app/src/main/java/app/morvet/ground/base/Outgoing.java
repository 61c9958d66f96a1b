package app.morvet.ground.base;

import app.morvet.probe.Web;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.time.Duration;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/** Calls to the outside over HTTP: only to hosts on the allow-list, with a time limit, and reading no more than needed. */
@Component
public class Outgoing {
    public static final Duration PATIENCE = Duration.ofSeconds(10);

    private final MorvetSettings settings;
    private final Duration patience;
    private final Web web = new Web();

    @Autowired
    public Outgoing(MorvetSettings settings) {
        this(settings, PATIENCE);
    }

    Outgoing(MorvetSettings settings, Duration patience) {
        this.settings = settings;
        this.patience = patience;
    }

    /**
     * Checks an address before it is kept or called.
     *
     * @throws IllegalArgumentException when it is no HTTP address, or its host is not on the allow-list; says how to add it
     */
    public void check(String address) {
        URI uri;
        try {
            uri = URI.create(address);
        } catch (IllegalArgumentException bad) {
            throw new IllegalArgumentException("\"" + address + "\" is not an address.", bad);
        }
        boolean http = "http".equals(uri.getScheme()) || "https".equals(uri.getScheme());
        if (!http || uri.getHost() == null || uri.getUserInfo() != null) {
            throw new IllegalArgumentException("\"" + address + "\" must be http://host:port or https://host.");
        }
        int port = uri.getPort() >= 0 ? uri.getPort() : "https".equals(uri.getScheme()) ? 443 : 80;
        reach(uri.getHost() + ":" + port);
    }

    /**
     * Checks a machine before it is reached.
     *
     * @param host with its port
     * @throws IllegalArgumentException when it is not on the allow-list; says how to add it
     */
    public void reach(String host) {
        if (!settings.outgoing().contains(host))
            throw new IllegalArgumentException(
                    "Morvet may not call " + host + ". Add it to morvet.outgoing and start again.");
    }

    /** @throws IOException when there is no whole answer in time; an answer of any status is no exception */
    public Web.Answer call(HttpRequest.Builder request, String address) throws IOException, InterruptedException {
        check(address);
        return web.call(request, address, patience);
    }
}
