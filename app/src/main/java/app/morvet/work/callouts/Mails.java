package app.morvet.work.callouts;

import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Live;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Where what people are told is put on its way, whatever it is about, and what became of it. */
@Service
public class Mails {
    static final Duration BURST = Duration.ofMinutes(1);

    private final DeliveryStore store;
    private final WishStore wishes;
    private final Errands errands;
    private final Live live;

    Mails(DeliveryStore store, WishStore wishes, Errands errands, Live live) {
        this.store = store;
        this.wishes = wishes;
        this.errands = errands;
        this.live = live;
    }

    /**
     * Puts one on its way, in the transaction that made it due. Of what somebody is to take the first goes at once; what else comes in
     * the same minute goes at its end, in one message.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void post(Delivery mail) {
        var due = Objects.requireNonNull(mail.nextTry());
        var hop = mail.to().hop();
        var first = mail.about().isToTake() && hop.way().isPersonal()
                ? store.firstOfBurst(hop, mail.madeAt().minus(BURST), mail.madeAt())
                : Optional.<Instant>empty();
        store.add(mail);
        if (first.isPresent()) {
            var end = first.get().plus(BURST);
            due = end.isAfter(due) ? end : due;
            store.waits(mail.id(), due);
        }
        onItsWay(mail, due);
    }

    /** Puts one on its way that whoever is told wishes to hear of later, with all else that waits for them until then. */
    @Transactional(propagation = Propagation.MANDATORY)
    void postLater(Delivery mail, Instant when) {
        store.add(mail);
        wishes.defer(mail.id(), when);
        onItsWay(mail, when);
    }

    private void onItsWay(Delivery mail, Instant due) {
        errands.at(due, DeliverySending.NAME, mail.id().toString());
        live.changed(DeliverySending.topic(mail.of()));
        live.changed("callouts");
    }

    /** The latest about a vendor's instance. */
    public List<Delivery> ofVendor(long component, int most) {
        return store.ofVendor(component, most);
    }

    /** The latest about a window. */
    public List<Delivery> ofWindow(long window, int most) {
        return store.ofWindow(window, most);
    }
}
