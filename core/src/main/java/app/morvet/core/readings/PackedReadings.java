package app.morvet.core.readings;

import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.zip.CRC32C;

/**
 * Readings of one series packed into few bytes. Times are kept as differences of differences, so that a steady cadence
 * costs a bit a reading. Values are kept one of two ways, whichever is possible: where all are decimals of up to four
 * places (as most meters give them), as differences of whole numbers; otherwise as the XOR with the value before, with
 * only its middle bits. Both are exact.
 *
 * <p>Source of times and XOR-ed values: Pelkonen et al., <em>Gorilla: A Fast, Scalable, In-Memory Time Series
 * Database</em>, PVLDB 8(12), 2015, which reports 1.37 bytes a reading on its own data. Times here are microseconds, so
 * the steps of the differences are wider than in the paper.
 */
public final class PackedReadings {
    private static final byte DECIMALS = 1;
    private static final byte FLOATS = 2;
    /** Added to the way where a checksum stands behind, as it does since there is one; older days have none. */
    private static final int CHECKED = 0x70;

    private static final int CHECKSUM_BYTES = 4;
    private static final int HEAD_BYTES = 6;
    private static final int MOST_PLACES = 4;
    private static final double[] SCALES = {1, 10, 100, 1000, 10_000};

    private PackedReadings() {}

    /** Packs readings; none give an empty array. */
    public static byte[] pack(Readings readings) {
        int size = readings.size();
        if (size == 0) return new byte[0];
        int places = places(readings.values());
        var out = new Bits.Writer();
        out.bits(CHECKED + (places < 0 ? FLOATS : DECIMALS), 8);
        out.bits(Math.max(places, 0), 8);
        out.bits(size, 32);
        packTimes(readings.times(), out);
        if (places < 0) packFloats(readings.values(), out);
        else packDecimals(readings.values(), SCALES[places], out);
        var body = out.done();
        return ByteBuffer.allocate(body.length + CHECKSUM_BYTES)
                .put(body)
                .putInt(checksum(body, body.length))
                .array();
    }

    private static int checksum(byte[] packed, int length) {
        var crc = new CRC32C();
        crc.update(packed, 0, length);
        return (int) crc.getValue();
    }

    /** Whether they were packed with a checksum, and only their first byte says otherwise. */
    private static boolean hasLostItsMark(byte[] packed) {
        int end = packed.length - CHECKSUM_BYTES;
        if (end < HEAD_BYTES) return false;
        int behind = ByteBuffer.wrap(packed).getInt(end);
        var marked = Arrays.copyOf(packed, end);
        for (byte way : new byte[] {DECIMALS, FLOATS}) {
            marked[0] = (byte) (CHECKED + way);
            if (checksum(marked, end) == behind) return true;
        }
        return false;
    }

    /**
     * @throws IllegalArgumentException when these are not packed readings, or not as they were packed: a checksum
     *     (CRC-32C, RFC 3720) stands behind all but those of the first version
     */
    public static Readings unpack(byte[] packed) {
        if (packed.length == 0) return Readings.NONE;
        if (packed.length < HEAD_BYTES) throw new IllegalArgumentException("the packed readings are cut off");
        var head = ByteBuffer.wrap(packed);
        int way = head.get();
        int places = head.get();
        int size = head.getInt();
        int end = packed.length;
        if (way > CHECKED) {
            way -= CHECKED;
            end -= CHECKSUM_BYTES;
            if (end < HEAD_BYTES || checksum(packed, end) != head.getInt(end))
                throw new IllegalArgumentException("the packed readings are damaged: their checksum does not fit");
        } else if (hasLostItsMark(packed)) {
            throw new IllegalArgumentException(
                    "the packed readings are damaged: a checksum stands behind, unannounced");
        }
        if (way != DECIMALS && way != FLOATS || places < 0 || places > MOST_PLACES || size < 1) {
            throw new IllegalArgumentException("these are not packed readings");
        }
        // A reading takes two bits or more, the first one a whole time.
        if (8L * (end - HEAD_BYTES) < 64 + 2L * (size - 1))
            throw new IllegalArgumentException("the packed readings are cut off: they claim to be " + size);
        var in = new Bits.Reader(packed, HEAD_BYTES, end);
        var times = unpackTimes(size, in);
        var values = way == FLOATS ? unpackFloats(size, in) : unpackDecimals(size, SCALES[places], in);
        if (in.left() >= 8) throw new IllegalArgumentException("something stands behind the packed readings");
        return new Readings(times, values);
    }

    private static int places(double[] values) {
        int places = 0;
        for (double value : values) {
            while (places <= MOST_PLACES && !exact(value, SCALES[places])) places++;
            if (places > MOST_PLACES) return -1;
        }
        // A value that is exact with few places must be so with as many as the others have.
        for (double value : values) if (!exact(value, SCALES[places])) return -1;
        return places;
    }

    private static boolean exact(double value, double scale) {
        double whole = Math.rint(value * scale);
        // As a whole number, so that -0.0, which is none, is kept as it is.
        return Math.abs(whole) < 1e15
                && Double.doubleToRawLongBits((long) whole / scale) == Double.doubleToRawLongBits(value);
    }

    private static void packTimes(long[] times, Bits.Writer out) {
        out.bits(times[0], 64);
        long step = 0;
        for (int i = 1; i < times.length; i++) {
            long next = times[i] - times[i - 1];
            vary(next - step, out);
            step = next;
        }
    }

    private static long[] unpackTimes(int size, Bits.Reader in) {
        var times = new long[size];
        times[0] = in.bits(64);
        long step = 0;
        for (int i = 1; i < size; i++) {
            step += unvary(in);
            times[i] = times[i - 1] + step;
        }
        return times;
    }

    private static void packDecimals(double[] values, double scale, Bits.Writer out) {
        long before = 0;
        for (double value : values) {
            long whole = (long) Math.rint(value * scale);
            vary(whole - before, out);
            before = whole;
        }
    }

    private static double[] unpackDecimals(int size, double scale, Bits.Reader in) {
        var values = new double[size];
        long whole = 0;
        for (int i = 0; i < size; i++) {
            whole += unvary(in);
            values[i] = whole / scale;
        }
        return values;
    }

    /** A whole number: a bit for 0, otherwise a few that say how wide it is, its sign folded in. */
    private static void vary(long number, Bits.Writer out) {
        if (number == 0) {
            out.bit(false);
            return;
        }
        long folded = number << 1 ^ number >> 63;
        for (int width : WIDTHS) {
            out.bit(true);
            if (width == 64 || folded < 1L << width && folded >= 0) {
                if (width < 64) out.bit(false);
                out.bits(folded, width);
                return;
            }
        }
    }

    private static final int[] WIDTHS = {4, 7, 10, 14, 20, 28, 64};

    private static long unvary(Bits.Reader in) {
        if (!in.bit()) return 0;
        int at = 0;
        while (at < WIDTHS.length - 1 && in.bit()) at++;
        long folded = in.bits(WIDTHS[at]);
        return folded >>> 1 ^ -(folded & 1);
    }

    private static void packFloats(double[] values, Bits.Writer out) {
        long before = Double.doubleToRawLongBits(values[0]);
        out.bits(before, 64);
        int leading = 64;
        int length = 0;
        for (int i = 1; i < values.length; i++) {
            long bits = Double.doubleToRawLongBits(values[i]);
            long xor = bits ^ before;
            before = bits;
            if (xor == 0) {
                out.bit(false);
                continue;
            }
            out.bit(true);
            int zeros = Math.min(31, Long.numberOfLeadingZeros(xor));
            int tail = Long.numberOfTrailingZeros(xor);
            if (length > 0 && zeros >= leading && tail >= 64 - leading - length) {
                out.bit(false);
            } else {
                leading = zeros;
                length = 64 - zeros - tail;
                out.bit(true);
                out.bits(leading, 5);
                out.bits(length - 1, 6);
            }
            out.bits(xor >>> 64 - leading - length, length);
        }
    }

    private static double[] unpackFloats(int size, Bits.Reader in) {
        var values = new double[size];
        long bits = in.bits(64);
        values[0] = Double.longBitsToDouble(bits);
        int leading = 0;
        int length = 0;
        for (int i = 1; i < size; i++) {
            if (in.bit()) {
                if (in.bit()) {
                    leading = (int) in.bits(5);
                    length = (int) in.bits(6) + 1;
                }
                bits ^= in.bits(length) << 64 - leading - length;
            }
            values[i] = Double.longBitsToDouble(bits);
        }
        return values;
    }
}
