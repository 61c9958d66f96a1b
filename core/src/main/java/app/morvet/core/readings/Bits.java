package app.morvet.core.readings;

import java.util.Arrays;

/** Single bits into and out of a byte array, the highest of each byte first. */
final class Bits {
    private Bits() {}

    static final class Writer {
        private byte[] bytes = new byte[256];
        private long bits;

        void bit(boolean set) {
            int at = (int) (bits >>> 3);
            if (at == bytes.length) bytes = Arrays.copyOf(bytes, at * 2);
            if (set) bytes[at] |= (byte) (0x80 >>> (bits & 7));
            bits++;
        }

        void bits(long value, int count) {
            for (int i = count - 1; i >= 0; i--) bit((value >>> i & 1) != 0);
        }

        byte[] done() {
            return Arrays.copyOf(bytes, (int) ((bits + 7) >>> 3));
        }
    }

    static final class Reader {
        private final byte[] bytes;
        private final int end;
        private long at;

        /** Reads the bytes from one up to before another. */
        Reader(byte[] bytes, int from, int end) {
            this.bytes = bytes;
            this.end = end;
            this.at = from * 8L;
        }

        /** How many bits have not been read. */
        long left() {
            return end * 8L - at;
        }

        boolean bit() {
            int index = (int) (at >>> 3);
            if (index >= end) throw new IllegalArgumentException("the packed readings are cut off");
            boolean set = (bytes[index] & (0x80 >>> (at & 7))) != 0;
            at++;
            return set;
        }

        long bits(int count) {
            long value = 0;
            int left = count;
            while (left > 0) {
                int index = (int) (at >>> 3);
                if (index >= end) throw new IllegalArgumentException("the packed readings are cut off");
                int offset = (int) (at & 7);
                int take = Math.min(left, 8 - offset);
                value = value << take | (bytes[index] & 0xff) >>> (8 - offset - take) & (1 << take) - 1;
                at += take;
                left -= take;
            }
            return value;
        }
    }
}
