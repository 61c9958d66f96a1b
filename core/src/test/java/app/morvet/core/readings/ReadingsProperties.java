package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

/** Readings packed, kept and read. */
class ReadingsProperties {
    @Provide
    Arbitrary<double[]> values() {
        return Arbitraries.oneOf(
                        Arbitraries.integers().between(-5000, 5000).map(it -> it / 10.0),
                        Arbitraries.doubles(),
                        Arbitraries.of(-0.0, 0.0, 1.5),
                        Arbitraries.integers().between(0, 3).map(Integer::doubleValue))
                .list()
                .ofMinSize(1)
                .ofMaxSize(300)
                .map(list -> list.stream().mapToDouble(Double::doubleValue).toArray());
    }

    @Property(tries = 500)
    void whatIsPackedComesBackBitByBit(@ForAll("values") double[] values, @ForAll long seed) {
        var random = new java.util.SplittableRandom(seed);
        var times = new long[values.length];
        long at = random.nextLong(4_000_000_000_000_000L);
        for (int i = 0; i < times.length; i++) {
            at += random.nextInt(4) > 0 ? 60_000_000 : random.nextLong(1L << random.nextInt(1, 44));
            times[i] = at;
        }
        var back = PackedReadings.unpack(PackedReadings.pack(new Readings(times, values)));
        assertThat(back.times()).isEqualTo(times);
        for (int i = 0; i < values.length; i++)
            assertThat(Double.doubleToRawLongBits(back.values()[i])).isEqualTo(Double.doubleToRawLongBits(values[i]));
    }

    @Property(tries = 40)
    void noByteCanBeChangedOrCutOffUnseen(@ForAll("values") double[] values, @ForAll long seed) {
        var random = new java.util.SplittableRandom(seed);
        var times = new long[values.length];
        for (int i = 0; i < times.length; i++) times[i] = 1_000_000_000L * i + random.nextInt(1000);
        var packed = PackedReadings.pack(new Readings(times, values));
        for (int i = 0; i < 200; i++) {
            var damaged = packed.clone();
            damaged[random.nextInt(packed.length)] ^= (byte) (1 + random.nextInt(255));
            assertThatThrownBy(() -> PackedReadings.unpack(damaged)).isInstanceOf(IllegalArgumentException.class);
        }
        for (int length = 1; length < packed.length; length++) {
            var cut = java.util.Arrays.copyOf(packed, length);
            assertThatThrownBy(() -> PackedReadings.unpack(cut)).isInstanceOf(IllegalArgumentException.class);
        }
    }

    @Example
    void aFirstByteThatDeniesItsChecksumIsSeenThoughTheRestCanBeRead() {
        var packed = PackedReadings.pack(new Readings(new long[] {589, 1_000_000_458}, new double[] {6.4, 13.2}));
        packed[0] = 2;
        assertThatThrownBy(() -> PackedReadings.unpack(packed)).hasMessageContaining("damaged");
    }

    /** The one byte that says whether there is a checksum is no less looked after than those that the checksum covers. */
    @Property(tries = 200)
    void noFirstByteCanBeChangedUnseen(@ForAll("values") double[] values) {
        var times = new long[values.length];
        for (int i = 0; i < times.length; i++) times[i] = 60_000_000L * i;
        var packed = PackedReadings.pack(new Readings(times, values));
        for (int flipped = 1; flipped < 256; flipped++) {
            var damaged = packed.clone();
            damaged[0] ^= (byte) flipped;
            assertThatThrownBy(() -> PackedReadings.unpack(damaged))
                    .as("%d", flipped)
                    .isInstanceOf(IllegalArgumentException.class);
        }
    }

    @Property(tries = 50)
    void daysThatWereSealedBeforeThereWasAChecksumAreReadStill(@ForAll("values") double[] values) {
        var times = new long[values.length];
        for (int i = 0; i < times.length; i++) times[i] = 60_000_000L * i;
        var packed = PackedReadings.pack(new Readings(times, values));
        var old = java.util.Arrays.copyOf(packed, packed.length - 4);
        old[0] -= 0x70;
        assertThat(PackedReadings.unpack(old).values()).isEqualTo(values);
    }

    @Test
    void aFewBytesCannotClaimAHundredMillionReadings() {
        var claims = java.nio.ByteBuffer.allocate(14)
                .put((byte) 1)
                .put((byte) 0)
                .putInt(100_000_000)
                .putLong(0)
                .array();
        assertThatThrownBy(() -> PackedReadings.unpack(claims)).hasMessageContaining("cut off");
    }

    @Property(tries = 200)
    void inWhateverOrderReadingsComeInTheRingHasThemInOrder(@ForAll List<Integer> seconds) {
        var ring = new ReadingRing();
        seconds.forEach(second -> ring.add(Instant.ofEpochSecond(second), second));
        assertThat(ring.all().values()).isSorted();
        assertThat(ring.size()).isEqualTo(seconds.size());
    }

    @Test
    void forgettingKeepsTheReadingJustBeforeSinceItSaysWhatStoodThere() {
        var ring = new ReadingRing();
        for (int i = 0; i < 100; i++) ring.add(Instant.ofEpochSecond(i), i);
        ring.forgetBefore(Instant.ofEpochSecond(90));
        assertThat(ring.size()).isEqualTo(11);
        assertThat(ring.all().values()[0]).isEqualTo(89);
        ring.forgetBefore(Instant.ofEpochSecond(1000));
        assertThat(ring.all().values()).containsExactly(99);
    }

    @Test
    void cutOffOrForeignBytesAreRefused() {
        var packed = PackedReadings.pack(new Readings(new long[] {1, 2, 3}, new double[] {1, 2, 3}));
        assertThatThrownBy(() -> PackedReadings.unpack(java.util.Arrays.copyOf(packed, 8)))
                .hasMessageContaining("checksum");
        assertThatThrownBy(() -> PackedReadings.unpack(new byte[] {9, 9, 0, 0, 0, 1, 0}))
                .hasMessageContaining("not packed readings");
    }
}
