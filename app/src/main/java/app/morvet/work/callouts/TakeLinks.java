package app.morvet.work.callouts;

import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.WorkCase;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * The links by which whoever is told takes a case without logging in, or says that they cannot. A code of 96 bits stands in the mail and
 * nowhere else; it is for one person and one case, and good until it is answered, or for twelve hours.
 */
@Service
class TakeLinks implements AgedData {
    private static final Duration GOOD_FOR = Duration.ofHours(12);
    /** Who writes back takes nothing, and may do so the next day. */
    private static final Duration GOOD_FOR_NOTES = Duration.ofDays(7);
    /** Who cannot is known as long as anybody may ask who was told. */
    private static final Duration KEPT_FOR = Duration.ofDays(30);

    private static final int BYTES = 12;

    /** What whoever follows one may see and do. */
    record Open(WorkCase about, Person who, boolean answered) {}

    private final LinkStore links;
    private final DeliveryStore store;
    private final CourseStore courses;
    private final CaseAnswers answers;
    private final CaseBook cases;
    private final People people;
    private final Errands errands;
    private final MorvetSettings settings;
    private final Times times;
    private final SecureRandom random = new SecureRandom();

    TakeLinks(
            LinkStore links,
            DeliveryStore store,
            CourseStore courses,
            CaseAnswers answers,
            CaseBook cases,
            People people,
            Errands errands,
            MorvetSettings settings,
            Times times) {
        this.links = links;
        this.store = store;
        this.courses = courses;
        this.answers = answers;
        this.cases = cases;
        this.people = people;
        this.errands = errands;
        this.settings = settings;
        this.times = times;
    }

    /** The link by which whoever is told takes a case, made as it is sent; empty where it is nobody's, or there is nothing to take. */
    Optional<String> of(Delivery delivery, Instant at) {
        if (delivery.to().person() == null
                || delivery.caseId() == null
                || !delivery.about().isToTake()) return Optional.empty();
        return Optional.of(settings.link("/take/" + make(delivery.id(), at)));
    }

    /** A new code, of 16 letters. */
    private String make(UUID delivery, Instant at) {
        var bytes = new byte[BYTES];
        random.nextBytes(bytes);
        var code = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
        links.add(hash(code), delivery, at);
        return code;
    }

    @Override
    public void dropOld(Instant now) {
        links.drop(now.minus(KEPT_FOR));
    }

    private static byte[] hash(String code) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(code.getBytes(java.nio.charset.StandardCharsets.UTF_8));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** What a code is for; empty where it is none, or was good too long ago. */
    @Transactional
    public Optional<Open> find(String code) {
        return find(code, GOOD_FOR);
    }

    private Optional<Open> find(String code, Duration goodFor) {
        return links.find(hash(code))
                .filter(link -> link.madeAt().plus(goodFor).isAfter(times.now()))
                .flatMap(link -> store.byId(link.delivery()).flatMap(delivery -> {
                    var caseId = delivery.caseId();
                    var person = delivery.to().person();
                    if (caseId == null || person == null) return Optional.empty();
                    return cases.find(caseId).flatMap(one -> people.card(person)
                            .filter(People.Card::active)
                            .map(card -> new Open(one, card.person(), link.answer() != null)));
                }));
    }

    /**
     * What somebody writes back becomes their note.
     *
     * @return whether the code is one that is good, for a note, so long
     */
    @Transactional
    public boolean note(String code, String words) {
        var open = find(code, GOOD_FOR_NOTES);
        open.ifPresent(one -> cases.note(one.about().id(), one.who(), words, times.now()));
        return open.isPresent();
    }

    /**
     * Somebody answers.
     *
     * @throws IllegalArgumentException saying why it changes nothing any more
     */
    @Transactional
    public void answer(String code, String answer) {
        var open = find(code).orElseThrow(() -> new IllegalArgumentException("this link is not good any more"));
        if (open.answered()) throw new IllegalArgumentException("you have answered already");
        var one = open.about();
        var now = times.now();
        switch (answer) {
            case "take" -> {
                answers.take(one, open.who(), now);
                links.answered(hash(code), "TAKEN", now);
            }
            case "quiet" -> {
                answers.quiet(one, open.who(), now);
                links.answered(hash(code), "QUIET", now);
            }
            case "cannot" -> {
                // Whoever cannot says so though somebody has it.
                CaseAnswers.openOnly(one);
                // Whoever is telling people of it just now is waited for, so that what is said here is not missed.
                cases.lock(one.id());
                courses.running(one.id());
                links.answered(hash(code), "CANNOT", now);
                cases.log(one.id(), "call-out", open.who().name() + " cannot take it", now);
                errands.at(now, CallOuts.NEXT, "" + one.id());
            }
            default -> throw new IllegalArgumentException("say whether you take it");
        }
    }
}
