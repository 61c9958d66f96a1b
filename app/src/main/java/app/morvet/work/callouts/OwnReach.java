package app.morvet.work.callouts;

import app.morvet.core.callouts.Way;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.page.Times;
import app.morvet.work.channels.TextGateway;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.stereotype.Service;

/**
 * Whether somebody is reached where they say: a code of six figures goes there by the way that call-outs go, and they type it here. It is
 * good for a quarter of an hour and for five tries. Who has not done so is told all the same: better a call too many than one too few.
 */
@Service
class OwnReach {
    private static final Duration GOOD_FOR = Duration.ofMinutes(15);
    private static final Duration NOT_SOONER = Duration.ofSeconds(30);
    private static final int TRIES = 5;

    /** How it stands with an address: nothing was sent there, a code is on its way, or somebody is reached there. */
    enum Standing {
        UNKNOWN,
        SENT,
        VERIFIED
    }

    private final WishStore store;
    private final DeliverySending sending;
    private final Connections connections;
    private final Times times;
    private final SecureRandom random = new SecureRandom();

    OwnReach(WishStore store, DeliverySending sending, Connections connections, Times times) {
        this.store = store;
        this.sending = sending;
        this.connections = connections;
        this.times = times;
    }

    Standing standing(People.Card card, Way way) {
        return store.check(card.person().id(), way)
                .filter(check -> check.address().equals(address(card, way)))
                .map(check -> check.verified()
                        ? Standing.VERIFIED
                        : isGood(check, times.now()) ? Standing.SENT : Standing.UNKNOWN)
                .orElse(Standing.UNKNOWN);
    }

    private static boolean isGood(WishStore.Check check, Instant now) {
        return check.tries() < TRIES && now.isBefore(check.sentAt().plus(GOOD_FOR));
    }

    private static String address(People.Card card, Way way) {
        return way == Way.MAIL ? card.mail() : card.phone();
    }

    /** @throws IllegalArgumentException where it does not get there; says why */
    void send(People.Card card, Way way) {
        var address = address(card, way);
        var now = times.now();
        if (address.isEmpty()) throw new IllegalArgumentException("say first where you are reached");
        long person = card.person().id();
        var code = "%06d".formatted(random.nextInt(1_000_000));
        // Kept first, so that nobody can have more codes sent than that by clicking fast.
        if (!store.sent(person, way, address, hash(person, code), now, now.minus(NOT_SOONER)))
            throw new IllegalArgumentException("a code has just been sent; the next can be sent in half a minute");
        var gateway = connections.of(TextGateway.SORT).stream().findFirst();
        if (way == Way.TEXT && gateway.isEmpty())
            throw new IllegalArgumentException("no gateway for text messages is connected");
        var hop = new Delivery.Hop(
                way, address, way == Way.TEXT ? gateway.map(Connection::id).orElse(null) : null);
        try {
            sending.send(
                    Delivery.fresh(
                            new Delivery.Of.Reach(person),
                            new Delivery.To(null, person, hop, List.of()),
                            null,
                            Delivery.About.TEST,
                            null,
                            code + " is your code for Morvet",
                            "%s is your code for Morvet. Type it where you asked for it; it is good for 15 minutes.\n"
                                    .formatted(code),
                            now,
                            now),
                    now);
        } catch (Channel.Undelivered not) {
            throw new IllegalArgumentException("the code did not get to " + address + ": " + not.words(), not);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
            throw new IllegalArgumentException("the code was not sent; try again", stop);
        }
    }

    /** @throws IllegalArgumentException where it is not the code that was sent, or was good too long ago */
    void verify(Person who, Optional<People.Card> card, Way way, String code) {
        var now = times.now();
        int tries = store.tried(who.id(), way);
        var check = store.check(who.id(), way)
                .filter(it ->
                        it.address().equals(card.map(one -> address(one, way)).orElse("")))
                .orElse(null);
        if (check == null || check.verified()) throw new IllegalArgumentException("no code is on its way there");
        if (tries > TRIES || !now.isBefore(check.sentAt().plus(GOOD_FOR)))
            throw new IllegalArgumentException("this code is not good any more; have another sent");
        if (!MessageDigest.isEqual(check.hash(), hash(who.id(), code.replace(" ", ""))))
            throw new IllegalArgumentException("this is not the code that was sent");
        store.verified(who.id(), way, now);
    }

    private static byte[] hash(long person, String code) {
        return DigestUtils.sha256(person + " " + code);
    }
}
