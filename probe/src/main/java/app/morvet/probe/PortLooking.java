package app.morvet.probe;

import app.morvet.core.checks.Answer;
import app.morvet.core.checks.Port;
import app.morvet.core.checks.Result;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.SocketTimeoutException;

/** Reaches a port, and reads its first line. */
final class PortLooking implements Looking<Port> {
    private static final int LONGEST_LINE = 1000;

    private final Permits permits;

    PortLooking(Permits permits) {
        this.permits = permits;
    }

    @Override
    public Class<Port> of() {
        return Port.class;
    }

    @Override
    public Result at(Port target, Around around, Watch watch) throws IOException {
        target.hosts().forEach(permits::reach);
        return Result.of(target.expectations(), new Answer(0, firstLine(target, watch), watch.took()));
    }

    private static String firstLine(Port target, Watch watch) throws IOException {
        try (var socket = new Socket()) {
            socket.connect(new InetSocketAddress(target.name(), target.port()), watch.leftMillis());
            if (target.firstLine().isEmpty()) return "";
            socket.setSoTimeout(watch.leftMillis());
            long until = System.nanoTime() + watch.left().toNanos();
            var line = new StringBuilder();
            var in = socket.getInputStream();
            for (int read = in.read(); read >= 0 && read != '\n' && line.length() < LONGEST_LINE; read = in.read()) {
                line.append((char) read);
                if (System.nanoTime() > until) throw new SocketTimeoutException("no whole line in time");
            }
            return line.toString().strip();
        }
    }
}
