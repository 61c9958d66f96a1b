package app.morvet.ground.access;

import app.morvet.ground.base.Nanos;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.github.benmanes.caffeine.cache.LoadingCache;
import io.github.bucket4j.Bucket;
import java.time.Duration;
import java.util.List;
import java.util.function.LongSupplier;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/**
 * How often somebody may try to log in, counted on this node and before a password is looked at, so that tries at once count each.
 * Nobody is locked out for ever: tries come back one after the other. Who tries from elsewhere does not use up the tries of a
 * person on a device on which they have logged in before, nor those of their name at another address.
 */
@Component
class Tries {
    /** Of one name at one address; then one every half minute. */
    static final int AT_ONCE = 5;

    static final Duration COMES_BACK = Duration.ofSeconds(30);
    /** Of one name from anywhere; then one every ten seconds: enough for a person, and no use for guessing. */
    static final int OF_A_NAME = 30;

    private static final Duration NAME_COMES_BACK = Duration.ofSeconds(10);
    /** Of any names at one address, behind which a whole company may sit. */
    private static final int OF_AN_ADDRESS = 100;

    private static final Duration ADDRESS_COMES_BACK = Duration.ofSeconds(2);
    private static final int MOST_REMEMBERED = 200_000;

    private record Key(String what, String address, String name) {}

    private final Nanos meter;
    private final LoadingCache<Key, Bucket> buckets;

    @Autowired
    Tries() {
        this(System::nanoTime);
    }

    Tries(LongSupplier nanos) {
        this.meter = new Nanos(nanos);
        this.buckets = Caffeine.newBuilder()
                .maximumSize(MOST_REMEMBERED)
                .expireAfterAccess(Duration.ofHours(1))
                .build(this::bucket);
    }

    private Bucket bucket(Key key) {
        return switch (key.what()) {
            case "name" -> bucket(OF_A_NAME, NAME_COMES_BACK);
            case "address" -> bucket(OF_AN_ADDRESS, ADDRESS_COMES_BACK);
            default -> bucket(AT_ONCE, COMES_BACK);
        };
    }

    private Bucket bucket(int most, Duration comesBack) {
        return Bucket.builder()
                .withCustomTimePrecision(meter)
                .addLimit(limit -> limit.capacity(most).refillGreedy(1, comesBack))
                .build();
    }

    /**
     * Counts a try.
     *
     * @param device of the person of that name, where it is known to be one of theirs; else empty
     * @return how long to wait; zero where it may go on
     */
    Duration count(String name, String address, String device) {
        for (var key : keys(name, address, device)) {
            var left = buckets.get(key).tryConsumeAndReturnRemaining(1);
            if (!left.isConsumed()) return Duration.ofNanos(left.getNanosToWaitForRefill());
        }
        return Duration.ZERO;
    }

    private static List<Key> keys(String name, String address, String device) {
        return device.isEmpty()
                ? List.of(new Key("both", address, name), new Key("address", address, ""), new Key("name", "", name))
                : List.of(new Key("device", device, name));
    }

    /** The right password was given: it counts nowhere, and of this name at this place all tries are there again. */
    void right(String name, String address, String device) {
        var keys = keys(name, address, device);
        keys.forEach(key -> buckets.get(key).addTokens(1));
        buckets.invalidate(keys.getFirst());
    }
}
