package app.morvet;

import java.io.IOException;
import java.net.ServerSocket;
import java.util.concurrent.ThreadLocalRandom;

/** A port that no outgoing connection is given: the mail server must come back at the same one after it was away. */
final class FreePort {
    private FreePort() {}

    static int get() {
        int port = ThreadLocalRandom.current().nextInt(20_000, 32_000);
        try {
            new ServerSocket(port).close();
            return port;
        } catch (IOException taken) {
            return get();
        }
    }
}
