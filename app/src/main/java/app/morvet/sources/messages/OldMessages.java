package app.morvet.sources.messages;

import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.DayPartitions;
import app.morvet.ground.base.MorvetSettings;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Failed messages are kept for so long, by whole days; a day on which one is open still is kept until it is dealt with. */
@Component
class OldMessages implements AgedData {
    private static final Logger log = LoggerFactory.getLogger(OldMessages.class);
    /** The messages themselves go last, since it is by them that a day is known. */
    private static final List<String> TABLES = List.of("message_words", "message_attachment", "failed_message");

    private final MessageStore store;
    private final DayPartitions partitions;
    private final MorvetSettings settings;

    OldMessages(MessageStore store, DayPartitions partitions, MorvetSettings settings) {
        this.store = store;
        this.partitions = partitions;
        this.settings = settings;
    }

    @Override
    public void dropOld(Instant now) {
        var first = now.minus(settings.keepMessages()).atOffset(ZoneOffset.UTC).toLocalDate();
        for (var day : partitions.days("failed_message")) if (day.isBefore(first)) drop(day);
        partitions.dropBefore("carried_count", first);
    }

    private void drop(LocalDate day) {
        if (store.anyOpen(day)) {
            log.info("the failed messages of {} are kept longer: one is open", day);
            return;
        }
        store.dropBeside(day);
        for (var table : TABLES) partitions.drop(table, day);
    }
}
