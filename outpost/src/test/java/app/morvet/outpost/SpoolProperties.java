package app.morvet.outpost;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;

/** Whatever is put, taken, lost on the way and begun anew: all of it is told, in order, once. */
class SpoolProperties {
    private static final long ROOM = 64 * 1024 * 1024;

    private static Path folder() throws IOException {
        return Files.createTempDirectory("spool");
    }

    private static void clear(Path folder) throws IOException {
        try (var all = Files.walk(folder)) {
            for (var one : all.sorted(Comparator.reverseOrder()).toList()) Files.delete(one);
        }
    }

    @Property(tries = 25)
    void nothingIsLostOrDoubled(@ForAll long seed) throws IOException {
        var random = new Random(seed);
        var folder = folder();
        var spool = new Spool(folder, ROOM);
        var put = new ArrayList<String>();
        var got = new ArrayList<String>();
        long takenTo = 0;
        for (int step = 0; step < 120; step++) {
            switch (random.nextInt(6)) {
                case 0, 1, 2 -> {
                    var line = "thing " + put.size() + " " + "x".repeat(random.nextInt(3000));
                    put.add(line);
                    spool.put(line);
                }
                case 3, 4 -> {
                    // It is sent; Morvet takes what it has not yet; the answer may get lost.
                    for (var one : spool.oldest(random.nextInt(10_000)))
                        if (one.number() > takenTo) {
                            got.add(one.line());
                            takenTo = one.number();
                        }
                    if (random.nextBoolean()) spool.taken(takenTo);
                }
                default -> {
                    // Killed, perhaps in the middle of a line that nobody was told is kept.
                    if (random.nextBoolean()) {
                        try (var files = Files.list(folder)) {
                            var last = files.filter(it -> it.toString().endsWith(".lines"))
                                    .max(Comparator.naturalOrder());
                            if (last.isPresent()) Files.writeString(last.get(), "half a li", StandardOpenOption.APPEND);
                        }
                    }
                    spool = new Spool(folder, ROOM);
                }
            }
            assertThat(spool.waiting()).isBetween((long) put.size() - got.size(), (long) put.size());
        }
        spool.taken(takenTo);
        for (var one : spool.oldest(Integer.MAX_VALUE)) got.add(one.line());
        assertThat(got).isEqualTo(put);
        assertThat(spool.dropped()).isZero();
        clear(folder);
    }

    @Example
    void whereThereIsNoRoomTheOldestGoesAndIsCounted() throws IOException {
        var folder = folder();
        var spool = new Spool(folder, 2 * 1024 * 1024);
        for (int i = 0; i < 400; i++) spool.put(i + " " + "x".repeat(10_000));
        var kept = spool.oldest(Integer.MAX_VALUE);
        assertThat(spool.dropped()).isPositive();
        assertThat(kept.size() + spool.dropped()).isEqualTo(400);
        assertThat(kept.getFirst().number()).isEqualTo(spool.dropped() + 1);
        assertThat(kept.getLast().line()).startsWith("399 ");
        long size;
        try (var all = Files.list(folder)) {
            size = all.mapToLong(it -> it.toFile().length()).sum();
        }
        assertThat(size).isLessThan(3 * 1024 * 1024);
        // What was taken is not counted as lost when its room is needed.
        spool.taken(kept.getLast().number());
        long before = spool.dropped();
        for (int i = 0; i < 250; i++) spool.put("y".repeat(10_000));
        assertThat(spool.dropped() - before).isLessThan(100);
        clear(folder);
    }

    @Example
    void whatIsTakenIsGoneFromTheDisk() throws IOException {
        var folder = folder();
        var spool = new Spool(folder, ROOM);
        for (int i = 0; i < 300; i++) spool.put("x".repeat(10_000));
        spool.taken(300);
        assertThat(spool.waiting()).isZero();
        try (var all = Files.list(folder)) {
            assertThat(all.mapToLong(it -> it.toFile().length()).sum()).isLessThan(700_000);
        }
        spool.put("after");
        assertThat(spool.oldest(100)).extracting(Spool.Kept::line).containsExactly("after");
        assertThat(new Spool(folder, ROOM).oldest(100))
                .extracting(Spool.Kept::number)
                .isEqualTo(List.of(301L));
        clear(folder);
    }
}
