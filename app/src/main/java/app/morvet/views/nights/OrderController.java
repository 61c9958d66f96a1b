package app.morvet.views.nights;

import app.morvet.ground.access.Person;
import app.morvet.sources.batch.JobBook;
import app.morvet.work.orders.Order;
import app.morvet.work.orders.Orders;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Asks the scheduler of a job for something. */
@Controller
class OrderController {
    private final JobBook jobs;
    private final Orders orders;

    OrderController(JobBook jobs, Orders orders) {
        this.jobs = jobs;
        this.orders = orders;
    }

    @PostMapping("/batch/jobs/{key}/orders")
    String give(
            @PathVariable String key,
            @RequestParam Order.Kind kind,
            @RequestParam(defaultValue = "") String run,
            @AuthenticationPrincipal Person by) {
        var job = jobs.byKey(key)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no job " + key + "."));
        try {
            orders.give(job, kind, run, by);
        } catch (IllegalArgumentException refused) {
            throw new ResponseStatusException(HttpStatus.CONFLICT, refused.getMessage(), refused);
        }
        return "redirect:/batch/jobs/" + key + "?asked=" + kind.words().replace(' ', '+') + "#orders";
    }
}
