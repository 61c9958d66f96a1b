package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
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
    void forgettingKeepsTheNewestReadingSinceSilenceIsCountedFromIt() {
        var ring = new ReadingRing();
        for (int i = 0; i < 100; i++) ring.add(Instant.ofEpochSecond(i), i);
        ring.forgetBefore(Instant.ofEpochSecond(90));
        assertThat(ring.size()).isEqualTo(10);
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

    @Test
    void anOpenMetricsPageIsReadWithItsFaultsByLine() {
        var page = OpenMetrics.read(
                """
                # TYPE processor_busy gauge
                # UNIT processor_busy percent
                # HELP processor_busy Share of processor time in use.
                processor_busy{component="quay-01",core="0"} 42.5 1764000000.250
                processor_busy{component="quay-01",core="0} 42.5
                # TYPE errors counter
                errors_total{component="gangway-1",code="a\\"b\\\\c"} 17
                errors_total{component="gangway-1"} -3
                errors_created{component="gangway-1"} 1764000000
                # TYPE temperature gauge
                temperature NaN
                temperature +Inf
                temperature
                free_words 12 nonsense
                requests_total 5
                # TYPE build info
                build_info{version="3"} 1
                # EOF
                after 1
                """);
        assertThat(page.samples())
                .extracting(OpenMetrics.Sample::name, OpenMetrics.Sample::sort, OpenMetrics.Sample::value)
                .containsExactly(
                        org.assertj.core.api.Assertions.tuple("processor_busy", Sort.GAUGE, 42.5),
                        org.assertj.core.api.Assertions.tuple("errors", Sort.COUNTER, 17.0),
                        org.assertj.core.api.Assertions.tuple("requests", Sort.COUNTER, 5.0));
        var first = page.samples().getFirst();
        assertThat(first.unit()).isEqualTo("percent");
        assertThat(first.at()).isEqualTo(Instant.parse("2025-11-24T16:00:00.250Z"));
        assertThat(page.samples().get(1).labels()).containsEntry("code", "a\"b\\c");
        assertThat(page.faults()).extracting(OpenMetrics.Fault::line).containsExactly(5, 8, 11, 12, 13, 14);
        assertThat(page.faults().get(2).words()).contains("NaN, which is no reading");
    }

    @Test
    void aHistogramGivesPercentilesOfWhatCameBetweenTwoPages() {
        var text =
                """
                # TYPE response_seconds histogram
                # UNIT response_seconds seconds
                response_seconds_bucket{component="g",le="0.1"} %d
                response_seconds_bucket{component="g",le="0.5"} %d
                response_seconds_bucket{component="g",le="+Inf"} %d
                response_seconds_count{component="g"} 3
                """;
        var first = OpenMetrics.read(text.formatted(10, 10, 10)).histograms().getFirst();
        var second = OpenMetrics.read(text.formatted(60, 110, 110)).histograms().getFirst();
        assertThat(first.labels()).isEqualTo(Map.of("component", "g"));
        var between = second.buckets().since(first.buckets());
        assertThat(between.quantile(0.5)).hasValue(0.1);
        assertThat(between.quantile(0.75).getAsDouble()).isCloseTo(0.3, org.assertj.core.data.Offset.offset(1e-12));
        // After a restart all that is there has come since.
        assertThat(first.buckets().since(second.buckets())).isEqualTo(first.buckets());
        assertThat(Buckets.of(new TreeMap<>(Map.of(1.0, 0.0))).quantile(0.5)).isEmpty();
    }
}
