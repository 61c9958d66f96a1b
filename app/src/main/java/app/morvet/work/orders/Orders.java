package app.morvet.work.orders;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Live;
import app.morvet.sources.batch.Schedulers;
import app.morvet.sources.batch.StoredJob;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Where orders to schedulers are given, and what came of them. */
@Service
public class Orders {
    private static final int SHOWN = 8;

    private final OrderStore store;
    private final Schedulers schedulers;
    private final Errands errands;
    private final Audit audit;
    private final Live live;
    private final Clock clock;

    Orders(OrderStore store, Schedulers schedulers, Errands errands, Audit audit, Live live, Clock clock) {
        this.store = store;
        this.schedulers = schedulers;
        this.errands = errands;
        this.audit = audit;
        this.live = live;
        this.clock = clock;
    }

    /** Whether the scheduler of a job takes orders. */
    public boolean takenFor(StoredJob job) {
        return job.feed() != null && schedulers.of(job.feed()).isPresent();
    }

    /** The latest orders about a job. */
    public List<Order> of(StoredJob job) {
        return store.latest(job.component().id(), SHOWN);
    }

    /**
     * Puts an order down; it is sent right after.
     *
     * @param run the scheduler's own name for the run that it is about; empty where it is about the job
     * @throws IllegalArgumentException where the job's scheduler takes no orders
     */
    @Transactional
    public long give(StoredJob job, Order.Kind kind, String run, Person by) {
        var feed = Optional.ofNullable(job.feed()).flatMap(schedulers::of);
        if (feed.isEmpty())
            throw new IllegalArgumentException(
                    "The scheduler of this job takes no orders: an admin can connect it under Setup, Schedulers.");
        var now = clock.instant();
        long id = store.add(job.component().id(), run, kind, now, by.id());
        audit.record(
                by,
                "scheduler asked to " + kind.words(),
                "job " + job.name(),
                null,
                run.isEmpty() ? kind.words() : run);
        errands.at(now, OrderSending.NAME, "" + id);
        live.changed("batch");
        return id;
    }
}
