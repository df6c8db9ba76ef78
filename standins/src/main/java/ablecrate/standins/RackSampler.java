package ablecrate.standins;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/// A sampler that is sent sounds as MIDI sample dumps, one after another; see `docs/devices/rack-sampler.md`. The files of a folder stand for what is sent.
final class RackSampler implements Device {
    /// Words of memory.
    private static final long MEMORY = 2_097_152;
    private static final int SOUNDS = 100, FIRST_KEY = 24, HEADER = 21, PACKET = 127, WORDS_AT = 5, WORD_BYTES = 120, LEAST_LOOP = 16;
    private static final int LEAST_PERIOD_NS = 22_675;
    private static final long MOST_BYTES = 1 << 24;

    @Override public String id() { return "rack-sampler"; }

    @Override public String name() { return "Rack sampler by MIDI"; }

    @Override public Controls controls() { return Controls.KEYS; }

    @Override public Loaded load(Path card) throws IOException {
        List<Preset.Slot> slots = new ArrayList<>();
        List<Refusal> refusals = new ArrayList<>();
        Map<Integer, String> numbers = new HashMap<>();
        long words = 0;
        for (Path file : FolderCard.sorted(card)) {
            String name = file.getFileName().toString();
            // Nothing else can be sent.
            if (!name.matches("(?i).*\\.(sds|syx)")) continue;
            try {
                if (slots.size() == SOUNDS) throw new Refused("more than " + SOUNDS + " sounds");
                Dump dump = Dump.read(file);
                if (numbers.containsKey(dump.number))
                    throw new Refused("number " + dump.number + " is that of '" + numbers.get(dump.number) + "', which it would replace");
                if (words + dump.plane.length > MEMORY) throw new Refused("memory full: " + (words + dump.plane.length) + " of " + MEMORY + " words");
                words += dump.plane.length;
                numbers.put(dump.number, name);
                CardWave sound = new CardWave(file, dump, 16, WaveFile.Own.NONE);
                int key = FIRST_KEY + slots.size();
                slots.add(new Preset.Slot(key, key, 1, 127, key, 0, 100, 0, 0, 100, 0, dump.plane.length, dump.loop.end() == 0, dump.loop, 0,
                        Preset.Shape.PLAIN, sound));
            } catch (Refused e) {
                refusals.add(new Refusal(name, e.getMessage()));
            }
        }
        return new Loaded(slots.isEmpty() ? List.of() : List.of(new Preset("Memory", Path.of(""), slots)), refusals, 2 * words, 2 * MEMORY);
    }

    /// A dump, header and packets.
    /// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, sample dump standard; from memory.
    private record Dump(int number, int rateHz, double[] plane, Preset.Loop loop) implements HostSound {
        static Dump read(Path file) throws IOException, Refused {
            if (Files.size(file) > MOST_BYTES) throw new Refused("more than its memory");
            byte[] all = Files.readAllBytes(file);
            if (all.length < HEADER || (all[0] & 0xFF) != 0xF0 || all[1] != 0x7E || all[3] != 1 || (all[20] & 0xFF) != 0xF7)
                throw new Refused("no dump header");
            int bits = all[6], period = sevens(all, 7), length = sevens(all, 10), start = sevens(all, 13), last = sevens(all, 16), kind = all[19];
            if (bits < 8 || bits > 16) throw new Refused("words of " + bits + " bits; takes 8 to 16");
            if (period < LEAST_PERIOD_NS) throw new Refused("a period of " + period + " ns; takes " + LEAST_PERIOD_NS + " and more");
            if (length == 0) throw new Refused("no sound in it");
            return new Dump(all[4] | all[5] << 7, (int) Math.round(1e9 / period), words(all, bits, length), loop(kind, start, last, length));
        }

        private static Preset.Loop loop(int kind, int start, int last, int length) throws Refused {
            if (kind == 0x7F) return Preset.Loop.NONE;
            if (kind != 0 && kind != 1) throw new Refused("loop of kind " + kind + "; plays forward and alternating ones");
            if (start > last || last >= length) throw new Refused("loop " + start + " to " + last + " of " + length + " words");
            if (last - start + 1 < LEAST_LOOP) throw new Refused("loop of " + (last - start + 1) + " words; the shortest is " + LEAST_LOOP);
            // The last word of the loop is part of it.
            return new Preset.Loop(start, last + 1, kind == 1, 0);
        }

        private static double[] words(byte[] all, int bits, int length) throws Refused {
            int width = Math.ceilDiv(bits, 7), inPacket = WORD_BYTES / width, packets = Math.ceilDiv(length, inPacket);
            if (all.length != HEADER + packets * PACKET) throw new Refused("it ends after " + (all.length - HEADER) / PACKET + " of " + packets + " packets");
            double[] plane = new double[length];
            for (int packet = 0; packet < packets; packet++) {
                int at = HEADER + packet * PACKET, sum = 0;
                if ((all[at] & 0xFF) != 0xF0 || all[at + 1] != 0x7E || all[at + 3] != 2 || (all[at + PACKET - 1] & 0xFF) != 0xF7)
                    throw new Refused("packet " + packet + " is none");
                if (all[at + 4] != (packet & 127)) throw new Refused("packet " + packet + " has the number " + all[at + 4]);
                for (int i = 1; i < WORDS_AT + WORD_BYTES; i++)
                    sum ^= all[at + i];
                if ((sum & 127) != all[at + WORDS_AT + WORD_BYTES]) throw new Refused("packet " + packet + " is damaged");
                for (int word = 0; word < inPacket && packet * inPacket + word < length; word++) {
                    int value = 0;
                    for (int i = 0; i < width; i++)
                        value = value << 7 | all[at + WORDS_AT + word * width + i];
                    plane[packet * inPacket + word] = ((value >> 7 * width - bits) - (1 << bits - 1)) * Math.scalb(1.0, 1 - bits);
                }
            }
            return plane;
        }

        private static int sevens(byte[] all, int at) { return all[at] | all[at + 1] << 7 | all[at + 2] << 14; }

        @Override public int channels() { return 1; }

        @Override public long frames() { return plane.length; }

        @Override public double[][] read(long from, int count) { return new double[][]{Arrays.copyOfRange(plane, (int) from, (int) from + count)}; }
    }
}
