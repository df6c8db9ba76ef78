package ablecrate.standins;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Optional;

/// A WAV file as devices and hosts read it: samples in a plain RIFF file. Chunks that are not known are passed over.
/// Source: IBM and Microsoft, *Multimedia Programming Interface and Data Specifications 1.0*, 1991; *New Multimedia Data Types and Data Techniques*, 1994.
/// @param start byte of the first sample
/// @param own what it says of how it is played
record WaveFile(Path path, int rateHz, int bits, boolean isFloat, int channels, long frames, long start, Own own) implements HostSound {
    private static final int PCM = 1, FLOAT = 3, EXTENSIBLE = 0xFFFE, SUBFORMAT_AT = 24;

    /// What the chunks `smpl` and `inst` say. Pitch fractions are of a semitone, 2³² to one; `smpl` says the pitch of the sound, a player adds the opposite.
    /// @param root absent where no `smpl` says it
    /// @param cents that a player adds
    /// @param loop its first; a type other than 0 and 1 is refused by those who play it
    /// @param low,high keys, both included; so are velocities
    record Own(Optional<Integer> root, double cents, Preset.Loop loop, int loopType, int low, int high, int softest, int loudest, int gainDb) {
        static final Own NONE = new Own(Optional.empty(), 0, Preset.Loop.NONE, 0, 0, 127, 1, 127, 0);

        Own withSample(ByteBuffer smpl) {
            double cents = -Integer.toUnsignedLong(smpl.getInt(16)) * 100.0 / (1L << 32);
            boolean hasLoop = smpl.getInt(28) > 0 && smpl.limit() >= 36 + 24;
            int type = hasLoop ? smpl.getInt(36 + 4) : 0;
            // The last frame of the loop is part of it.
            Preset.Loop first = hasLoop ? new Preset.Loop(smpl.getInt(36 + 8), smpl.getInt(36 + 12) + 1, type == 1, 0) : Preset.Loop.NONE;
            return new Own(Optional.of(smpl.getInt(12)), cents, first, type, low, high, softest, loudest, gainDb);
        }

        Own withInstrument(ByteBuffer inst) {
            return new Own(root, cents, loop, loopType, inst.get(3), inst.get(4), inst.get(5), inst.get(6), inst.get(2));
        }
    }

    /// What is known before the audio.
    interface Check {
        /// @param code of the format, as the file has it
        void check(int code, int rateHz, int bits, int channels) throws Refused;
    }

    /// @param check asked about the format, before the audio is looked for
    /// @throws Refused in the words of a device
    static WaveFile open(Path path, Check check) throws IOException, Refused {
        try (FileChannel file = FileChannel.open(path)) {
            long size = file.size();
            ByteBuffer head = bytes(file, 0, 12);
            if (head.limit() < 12 || !id(head, 0).equals("RIFF") || !id(head, 8).equals("WAVE")) throw new Refused("not a WAV file");
            int code = 0, channels = 0, rate = 0, bits = 0;
            long frames = 0, start = 0;
            Own own = Own.NONE;
            for (long at = 12; at + 8 <= size;) {
                ByteBuffer chunk = bytes(file, at, 8);
                String id = id(chunk, 0);
                long length = Integer.toUnsignedLong(chunk.getInt(4));
                if (at + 8 + length > size) throw new Refused("file is cut off in its '" + id + "' chunk");
                if (id.equals("fmt ")) {
                    if (length < 16) throw new Refused("no format");
                    ByteBuffer format = bytes(file, at + 8, (int) Math.min(40, length));
                    code = Short.toUnsignedInt(format.getShort(0));
                    channels = Short.toUnsignedInt(format.getShort(2));
                    rate = format.getInt(4);
                    bits = format.getShort(14);
                    if (code == EXTENSIBLE && format.limit() >= SUBFORMAT_AT + 2) code = Short.toUnsignedInt(format.getShort(SUBFORMAT_AT));
                    check.check(code, rate, bits, channels);
                }
                if (id.equals("data")) {
                    if (channels == 0) throw new Refused("no format before the audio");
                    frames = length / ((long) bits / 8 * channels);
                    start = at + 8;
                }
                if (id.equals("smpl") && length >= 36) own = own.withSample(bytes(file, at + 8, (int) Math.min(60, length)));
                if (id.equals("inst") && length >= 7) own = own.withInstrument(bytes(file, at + 8, 7));
                at += 8 + length + (length & 1);
            }
            if (frames == 0) throw new Refused("no audio");
            return new WaveFile(path, rate, bits, code == FLOAT, channels, frames, start, own);
        }
    }

    static boolean isPcm(int code) { return code == PCM; }

    static boolean isFloat(int code) { return code == FLOAT; }

    private static ByteBuffer bytes(FileChannel file, long at, int count) throws IOException {
        ByteBuffer bytes = ByteBuffer.allocate(count).order(ByteOrder.LITTLE_ENDIAN);
        while (bytes.hasRemaining() && file.read(bytes, at + bytes.position()) > 0) {
        }
        return bytes.flip();
    }

    private static String id(ByteBuffer all, int at) { return new String(all.array(), at, 4, StandardCharsets.ISO_8859_1); }

    @Override public double[][] read(long from, int count) throws IOException {
        int width = bits / 8;
        double[][] planes = new double[channels][count];
        try (FileChannel file = FileChannel.open(path)) {
            int there = Math.clamp(frames - from, 0, count);
            ByteBuffer all = bytes(file, start + from * width * channels, Math.multiplyExact(there, width * channels));
            int at = 0;
            for (int frame = 0; frame < there && at + width * channels <= all.limit(); frame++)
                for (int channel = 0; channel < channels; channel++, at += width)
                    planes[channel][frame] = isFloat ? all.getFloat(at) : integer(all, at, width);
        }
        return planes;
    }

    private static double integer(ByteBuffer all, int at, int width) {
        return width == 2 ? all.getShort(at) / 32_768.0 : (all.get(at + 2) << 16 | (all.getShort(at) & 0xFFFF)) / 8_388_608.0;
    }
}
