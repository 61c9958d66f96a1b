package app.morvet.work.callouts;

import app.morvet.alerting.windows.Windows;
import app.morvet.core.callouts.Way;
import app.morvet.core.handoff.BackOff;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.vendors.Vendors;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sends what people are told until it is taken: where a way fails twice, or says that it never will take it, by the next way; by the last one
 * for a day. Each try bears the same id, so one that is sent once more after a crash can be told from two.
 */
@Component
class DeliverySending implements Errand {
    /** The name of its errands; it stays, since some of them wait. */
    static final String NAME = "mail-sending";

    private static final BackOff BACK_OFF =
            new BackOff(Duration.ofSeconds(5), Duration.ofMinutes(5), Duration.ofHours(24));
    /** So many tries fail by one way before the next is taken. */
    private static final int TRIES = 2;

    /** A way that wants more time than this is not waited for where there is another. */
    private static final Duration WAITED_FOR = Duration.ofMinutes(1);

    private static final Duration TOGETHER = Duration.ofSeconds(5);

    private final DeliveryStore store;
    private final DeliveryTries tries;
    private final WishStore wishes;
    private final CallOutNews news;
    private final Map<Way, Channel> channels;
    private final CaseBook cases;
    private final Errands errands;
    private final TransactionTemplate transaction;
    private final Live live;
    private final Times times;

    DeliverySending(
            DeliveryStore store,
            DeliveryTries tries,
            WishStore wishes,
            CallOutNews news,
            List<Channel> channels,
            CaseBook cases,
            Errands errands,
            TransactionTemplate transaction,
            Live live,
            Times times) {
        this.store = store;
        this.tries = tries;
        this.wishes = wishes;
        this.news = news;
        this.channels = new EnumMap<>(Way.class);
        for (var channel : channels) for (var way : channel.ways()) this.channels.put(way, channel);
        this.cases = cases;
        this.errands = errands;
        this.transaction = transaction;
        this.live = live;
        this.times = times;
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public Optional<Instant> run(String text) {
        var found = store.byId(UUID.fromString(text));
        if (found.isEmpty() || found.get().state() != Delivery.State.WAITING) return Optional.empty();
        var delivery = found.get();
        if (!isToBeTold(delivery)) {
            store.withdraw(delivery.id());
            return Optional.empty();
        }
        // The first of those that go together takes the others with it; they look again, should it not get through.
        var together = store.burst(delivery, times.now());
        if (!together.isEmpty() && !together.getFirst().id().equals(delivery.id()))
            return Optional.of(times.now().plus(TOGETHER));
        long began = System.nanoTime();
        try {
            var more = together.stream().skip(1).filter(this::isToBeTold).toList();
            var outsideId = channels.get(delivery.to().hop().way()).send(delivery, more, times.now());
            var took = Duration.ofNanos(System.nanoTime() - began);
            sent(delivery, more, outsideId, took);
            return Optional.empty();
        } catch (Channel.Undelivered failed) {
            return failed(delivery, failed, Duration.ofNanos(System.nanoTime() - began));
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            return Optional.of(times.now());
        }
    }

    /** @param at when it says that it was sent */
    String send(Delivery delivery, Instant at) throws Channel.Undelivered, InterruptedException {
        return channels.get(delivery.to().hop().way()).send(delivery, List.of(), at);
    }

    private void sent(Delivery delivery, List<Delivery> more, String outsideId, Duration took) {
        var now = times.now();
        transaction.executeWithoutResult(status -> {
            for (var one : Stream.concat(Stream.of(delivery), more.stream()).toList()) {
                store.sent(one.id(), outsideId, now);
                tried(one, DeliveryTries.Outcome.TAKEN, "taken", now, took);
                log(one, words(one), now);
                // Of signs of life only those are kept that do not get through.
                if (one.about() == Delivery.About.SIGN) store.withdraw(one.id());
            }
            tellPages(delivery);
        });
    }

    private void tried(Delivery delivery, DeliveryTries.Outcome outcome, String words, Instant now, Duration took) {
        var hop = delivery.to().hop();
        tries.add(delivery.id(), new DeliveryTries.Try(now, hop.way(), hop.address(), outcome, words, took));
    }

    /** Where what became of it is seen. */
    static String topic(Delivery.Of of) {
        return switch (of) {
            case Delivery.Of.Case one -> "cases";
            case Delivery.Of.Window one -> Windows.TOPIC;
            case Delivery.Of.Vendor one -> Vendors.TOPIC;
            case Delivery.Of.Rule one -> CallOutRules.TOPIC;
            case Delivery.Of.Handover one -> "shift";
            case Delivery.Of.Reach one -> CallOutRules.TOPIC;
        };
    }

    private void log(Delivery delivery, String words, Instant at) {
        var caseId = delivery.caseId();
        if (caseId != null) cases.log(caseId, "call-out", words, at);
    }

    /**
     * That something is over is told while it is. Of what waited because whoever is told wishes so, or may not be called at that hour,
     * only what is still to be taken is told, and that it is over only if they had heard of it.
     */
    private boolean isToBeTold(Delivery delivery) {
        var about = delivery.about();
        var caseId = delivery.caseId();
        boolean asks = about.isToTake() || about == Delivery.About.UNHEARD;
        if (caseId == null || about != Delivery.About.OVER && !asks) return true;
        var one = cases.find(caseId).orElse(null);
        boolean over = one != null && (one.settled() || one.overSince() != null);
        if (about == Delivery.About.OVER && !over) return false;
        if (one == null || !wishes.isDeferred(delivery.id())) return true;
        return about == Delivery.About.OVER
                ? wishes.heard(caseId, delivery.to(), one.openedAt())
                : !over && (!CallOuts.isHad(one) || one.progress().returned());
    }

    /** What the log of the case says of one that was sent. */
    static String words(Delivery sent) {
        var what =
                switch (sent.about()) {
                    case EXPLAINS -> "Told that theirs is held up: ";
                    case OVER -> "Told that it is over: ";
                    case LATE -> "Told that it is not taken: ";
                    case RETURNED -> "Told that it was returned: ";
                    case NOT_ACCEPTED -> "Told that it is not accepted: ";
                    case UNHEARD -> "Told that nobody takes it: ";
                    case OPENED, WINDOW, VENDOR, DIGEST, SIGN, TEST, NEWS -> "Told ";
                };
        return what + sent.recipient() + " by " + sent.to().hop().way().words();
    }

    private Optional<Instant> failed(Delivery delivery, Channel.Undelivered failed, Duration took) {
        var now = times.now();
        var words = failed.words();
        boolean longer = failed.asksToWait().compareTo(WAITED_FOR) > 0;
        boolean turns =
                !delivery.to().further().isEmpty() && (failed.lasting() || longer || delivery.failures() + 1 >= TRIES);
        if (turns) return turned(delivery, failed, now, took);
        var firstTry = delivery.firstTry() == null ? now : delivery.firstTry();
        boolean givenUp = failed.lasting() || BACK_OFF.exhausted(Duration.between(firstTry, now));
        var next = givenUp
                ? Optional.<Instant>empty()
                : Optional.of(now.plus(BACK_OFF.after(delivery.failures() + 1, failed.asksToWait())));
        var what = "The " + delivery.to().hop().way().words() + " to " + delivery.recipient();
        transaction.executeWithoutResult(status -> {
            store.failed(
                    delivery.id(),
                    givenUp ? Delivery.State.GIVEN_UP : Delivery.State.WAITING,
                    now,
                    next.orElse(null),
                    words);
            tried(delivery, outcome(failed), words, now, took);
            if (givenUp) {
                log(delivery, what + " could not be delivered: " + words, now);
                news.undelivered(delivery, words);
            }
            if (!givenUp && delivery.failures() == 0) log(delivery, what + " waits: " + words, now);
            // Whoever cannot be reached is not waited for.
            if (givenUp && delivery.turn() != null && delivery.caseId() != null)
                errands.at(now, CallOuts.NEXT, "" + delivery.caseId());
            tellPages(delivery);
        });
        return next;
    }

    private Optional<Instant> turned(Delivery delivery, Channel.Undelivered failed, Instant now, Duration took) {
        var words = failed.words();
        var further = delivery.to().further();
        var to = new Delivery.To(
                delivery.to().team(), delivery.to().person(), further.getFirst(), further.subList(1, further.size()));
        var hop = delivery.to().hop();
        transaction.executeWithoutResult(status -> {
            store.turned(delivery.id(), to, now, words);
            tried(delivery, outcome(failed), words, now, took);
            log(
                    delivery,
                    "The %s to %s does not get through (%s); it goes to %s by %s"
                            .formatted(
                                    hop.way().words(),
                                    hop.address(),
                                    words,
                                    to.hop().address(),
                                    to.hop().way().words()),
                    now);
            tellPages(delivery);
        });
        return Optional.of(now);
    }

    private static DeliveryTries.Outcome outcome(Channel.Undelivered failed) {
        return failed.lasting() ? DeliveryTries.Outcome.REFUSED : DeliveryTries.Outcome.FAILED;
    }

    private void tellPages(Delivery delivery) {
        live.changed(topic(delivery.of()));
        live.changed("now");
        live.changed(CallOutRules.TOPIC);
    }
}
