package app.morvet.probe;

import app.morvet.core.checks.Result;
import app.morvet.core.checks.Target;
import java.io.IOException;
import java.net.ConnectException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.net.http.HttpTimeoutException;
import java.nio.channels.UnresolvedAddressException;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javax.net.ssl.SSLException;

/** Asks once, and says what came of it: an answer held against what is expected, or why there was none. */
public final class Prober {
    private final Map<Class<?>, Looking<?>> kinds = new HashMap<>();

    private Prober(List<Looking<?>> all) {
        for (var one : all) kinds.put(one.of(), one);
    }

    /** For what is asked over the network. */
    public static Prober ofNetwork(Permits permits, List<Looking<?>> more) {
        return new Prober(network(permits, more));
    }

    /** For what is asked on a host: the network, and its commands, services, processes and files. */
    public static Prober ofHost(Permits permits, ProcessLooking.Host host) {
        return new Prober(network(
                permits,
                List.of(
                        new CertificateLooking.InFile(permits),
                        new CommandLooking(permits),
                        new ServiceLooking(),
                        new ProcessLooking(host),
                        new FileLooking(permits),
                        new LogLooking(permits))));
    }

    private static List<Looking<?>> network(Permits permits, List<Looking<?>> more) {
        var all = new ArrayList<Looking<?>>(WebCalling.both(permits));
        all.add(new PortLooking(permits));
        all.add(new CertificateLooking(permits));
        all.addAll(more);
        return all;
    }

    public Result ask(Target target, Around around) throws InterruptedException {
        var watch = new Watch(target.patience());
        try {
            var looking = kinds.get(target.getClass());
            if (looking == null)
                throw new IllegalArgumentException(
                        "that is looked at elsewhere only: have an outpost do it, or not one");
            return look(looking, target, around, watch);
        } catch (IOException | RuntimeException | GeneralSecurityException none) {
            // Also of what nobody thought of there is a word: a check that says nothing would be missed by nobody.
            return Result.none(watch.took(), why(none, target)).remembering(around.memory());
        }
    }

    private static <T extends Target> Result look(Looking<T> looking, Target target, Around around, Watch watch)
            throws IOException, InterruptedException, GeneralSecurityException {
        return looking.at(looking.of().cast(target), around, watch);
    }

    /** In a word that a person can act on. */
    private static String why(Exception none, Target target) {
        var host = String.join(" or ", target.hosts());
        for (Throwable at = none; at != null; at = at.getCause()) {
            if (at instanceof UnknownHostException || at instanceof UnresolvedAddressException)
                return "the name " + host.replaceAll(":\\d+\\b", "") + " is not known";
            if (at instanceof SSLException) return "no safe connection: " + at.getMessage();
        }
        if (none instanceof HttpTimeoutException timeout
                && String.valueOf(timeout.getMessage()).startsWith("it began"))
            return String.valueOf(timeout.getMessage());
        if (none instanceof HttpTimeoutException || none instanceof SocketTimeoutException)
            return "no answer within " + target.patience().toMillis() + " ms";
        if (none instanceof ConnectException) return "nobody listens at " + host;
        if (none instanceof IllegalArgumentException) return String.valueOf(none.getMessage());
        var message = String.valueOf(none.getMessage());
        var lower = message.toLowerCase(Locale.ROOT);
        if (lower.contains("status line") || lower.contains("header parser") || lower.contains("http/1.1"))
            return "it speaks no HTTP: " + message;
        return "it broke off: " + message;
    }
}
