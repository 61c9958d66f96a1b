package app.morvet.standins;

import java.io.IOException;
import java.net.BindException;
import java.net.ServerSocket;

/** A port on which nobody listens, below those which outgoing connections are given. */
final class FreePort {
    private FreePort() {}

    static int get() throws IOException {
        for (int port = 30_000; port < 32_000; port++) {
            try {
                new ServerSocket(port).close();
                return port;
            } catch (BindException taken) {
                continue;
            }
        }
        throw new IOException("no port is free from 30000 to 31999");
    }
}
