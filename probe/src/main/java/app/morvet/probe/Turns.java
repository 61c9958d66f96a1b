package app.morvet.probe;

import app.morvet.core.checks.Result;
import app.morvet.core.checks.Target;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;

/** Asks as often as it takes, each in its turn: of one machine at most four are asked at once, so that none holds up others. */
public final class Turns {
    private static final int OF_A_HOST = 4;
    private static final Duration BETWEEN_TRIES = Duration.ofMillis(500);

    private final Prober prober;
    private final Map<String, Semaphore> hosts = new ConcurrentHashMap<>();

    public Turns(Prober prober) {
        this.prober = prober;
    }

    /** @param tries of which one that passes is enough; what is seen to have changed is not asked again */
    public Result ask(Target target, Around around, int tries) throws InterruptedException {
        var held = new ArrayList<Semaphore>();
        try {
            // In one order, so that two that need the same machines never wait for each other.
            for (var host : target.hosts().stream().sorted().toList()) {
                var gate = hosts.computeIfAbsent(host, none -> new Semaphore(OF_A_HOST));
                gate.acquire();
                held.add(gate);
            }
            var result = prober.ask(target, around);
            for (int again = 1;
                    again < tries && !result.passed() && !result.state().equals(Result.CHANGED);
                    again++) {
                Thread.sleep(BETWEEN_TRIES);
                result = prober.ask(target, around);
            }
            return result;
        } finally {
            held.forEach(Semaphore::release);
        }
    }
}
