package app.morvet.work.callouts;

import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Live;
import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Where what people are told is put on its way, whatever it is about, and what became of it. */
@Service
public class Mails {
    private final DeliveryStore store;
    private final Errands errands;
    private final Live live;

    Mails(DeliveryStore store, Errands errands, Live live) {
        this.store = store;
        this.errands = errands;
        this.live = live;
    }

    /** Puts one on its way, in the transaction that made it due. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void post(Delivery mail) {
        store.add(mail);
        errands.at(mail.nextTry(), DeliverySending.NAME, mail.id().toString());
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
