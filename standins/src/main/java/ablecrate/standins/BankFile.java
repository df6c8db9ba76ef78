package ablecrate.standins;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// A SoundFont 2 bank as a strict player reads it: what the specification asks for and is not so, is refused.
/// Source: *SoundFont technical specification 2.04*, E-mu Systems, 2006; from memory.
/// @param samples byte of the first sample of the pool
/// @param sampleBytes of the pool
record BankFile(Path path, long samples, long sampleBytes, Map<String, ByteBuffer> tables) {
    private static final int ZEROS = 46, LEAST_LOOP = 32, AROUND_LOOP = 8;
    private static final long MOST_TABLE_BYTES = 1 << 26;
    private static final Map<String, Integer> RECORDS = Map.of("phdr", 38, "pbag", 4, "pmod", 10, "pgen", 4, "inst", 22, "ibag", 4, "imod", 10, "igen", 4,
            "shdr", 46);
    /// Generators, by their numbers in section 8.1.2.
    private static final int START = 0, END = 1, LOOP_START = 2, LOOP_END = 3, START_COARSE = 4, VIBRATO = 6, CUTOFF = 8, RESONANCE = 9, END_COARSE = 12,
            PAN = 17, VIBRATO_DELAY = 23, VIBRATO_PITCH = 24,
            ATTACK = 34, HOLD = 35, DECAY = 36, SUSTAIN = 37, RELEASE = 38, INSTRUMENT = 41, KEYS = 43, VELOCITIES = 44, LOOP_START_COARSE = 45,
            ATTENUATION = 48, LOOP_END_COARSE = 50, COARSE = 51, FINE = 52, SAMPLE = 53, MODES = 54, SCALE = 56, EXCLUSIVE = 57, ROOT = 58;
    /// Modulators that are always there, by section 8.4, with what they amount to.
    private static final int VELOCITY_CONCAVE = 0x0502, USUAL_VELOCITY_AMOUNT = 960, WHEEL_LINEAR = 0x0081, USUAL_WHEEL_AMOUNT = 50;
    private static final int OPEN_CUTOFF = 13_500, SHORTEST = -12_000;

    /// @throws Refused in the device's words
    static BankFile read(Path path, long memory) throws IOException, Refused {
        try (FileChannel file = FileChannel.open(path)) {
            ByteBuffer head = bytes(file, 0, 12);
            if (head.limit() < 12 || !id(head, 0).equals("RIFF") || !id(head, 8).equals("sfbk")) throw new Refused("not a SoundFont 2 bank");
            if (8 + Integer.toUnsignedLong(head.getInt(4)) > file.size()) throw new Refused("file is cut off");
            Map<String, ByteBuffer> tables = new HashMap<>();
            long samples = 0, sampleBytes = 0;
            for (long at = 12; at + 12 <= file.size();) {
                ByteBuffer list = bytes(file, at, 12);
                long end = at + 8 + Integer.toUnsignedLong(list.getInt(4));
                if (end > file.size()) throw new Refused("file is cut off in a list");
                for (long in = at + 12; id(list, 0).equals("LIST") && in + 8 <= end;) {
                    ByteBuffer chunk = bytes(file, in, 8);
                    String name = id(chunk, 0);
                    long length = Integer.toUnsignedLong(chunk.getInt(4));
                    if (in + 8 + length > end) throw new Refused("file is cut off in its '" + name + "' chunk");
                    if (name.equals("smpl")) {
                        samples = in + 8;
                        sampleBytes = length;
                    }
                    if (RECORDS.containsKey(name)) {
                        if (length == 0 || length % RECORDS.get(name) != 0 || length > MOST_TABLE_BYTES)
                            throw new Refused("'" + name + "' has " + length + " bytes");
                        tables.put(name, bytes(file, in + 8, (int) length));
                    }
                    in += 8 + length + (length & 1);
                }
                at = end + (end & 1);
            }
            for (String name : RECORDS.keySet())
                if (!tables.containsKey(name)) throw new Refused("no '" + name + "' chunk");
            if (sampleBytes > memory) throw new Refused("memory full: " + sampleBytes + " of " + memory + " bytes");
            BankFile bank = new BankFile(path, samples, sampleBytes, tables);
            bank.checkSamples(file);
            return bank;
        }
    }

    private static ByteBuffer bytes(FileChannel file, long at, int count) throws IOException {
        ByteBuffer bytes = ByteBuffer.allocate(count).order(ByteOrder.LITTLE_ENDIAN);
        while (bytes.hasRemaining() && file.read(bytes, at + bytes.position()) > 0) {
        }
        return bytes.flip();
    }

    private static String id(ByteBuffer all, int at) { return new String(all.array(), at, 4, StandardCharsets.ISO_8859_1); }

    private int count(String table) { return tables.get(table).limit() / RECORDS.get(table); }

    private int u16(String table, int record, int at) throws Refused {
        if (record < 0 || record >= count(table)) throw new Refused("'" + table + "' has no record " + record);
        return Short.toUnsignedInt(tables.get(table).getShort(record * RECORDS.get(table) + at));
    }

    private String name(String table, int record) {
        String whole = new String(tables.get(table).array(), record * RECORDS.get(table), 20, StandardCharsets.ISO_8859_1);
        return whole.substring(0, whole.indexOf(0) < 0 ? 20 : whole.indexOf(0)).strip();
    }

    /// A header of the pool; the last one of the table is none.
    private record Header(String name, int start, int end, int loopStart, int loopEnd, int rateHz, int root, int cents) {}

    private Header header(int sample) throws Refused {
        if (sample < 0 || sample >= count("shdr") - 1) throw new Refused("there is no sample " + sample);
        ByteBuffer all = tables.get("shdr");
        int at = sample * RECORDS.get("shdr"), root = Byte.toUnsignedInt(all.get(at + 40));
        return new Header(name("shdr", sample), all.getInt(at + 20), all.getInt(at + 24), all.getInt(at + 28), all.getInt(at + 32), all.getInt(at + 36),
                root > 127 ? 60 : root, all.get(at + 41));
    }

    /// Inside of the pool, followed by 46 zeros (section 6.1).
    private void checkSamples(FileChannel file) throws IOException, Refused {
        for (int i = 0; i < count("shdr") - 1; i++) {
            Header h = header(i);
            if (h.start < 0 || h.end <= h.start || 2 * ((long) h.end + ZEROS) > sampleBytes)
                throw new Refused("sample '" + h.name + "' lies outside of the samples");
            if (h.rateHz < 400 || h.rateHz > 50_000) throw new Refused("sample '" + h.name + "' has " + h.rateHz + " Hz; plays 400 to 50000");
            ByteBuffer behind = bytes(file, samples + 2L * h.end, 2 * ZEROS);
            while (behind.hasRemaining())
                if (behind.get() != 0) throw new Refused("sample '" + h.name + "' is not followed by " + ZEROS + " zeros");
        }
    }

    /// What a zone says, generator by generator.
    private record Generators(Map<Integer, Integer> said) {
        int get(int generator, int usual) { return said.getOrDefault(generator, usual); }

        /// Ranges have the lower byte first.
        int low(int generator, int usual) { return said.containsKey(generator) ? said.get(generator) & 0xFF : usual; }

        int high(int generator) { return said.containsKey(generator) ? said.get(generator) >> 8 & 0xFF : 127; }

        Generators over(Generators global) {
            Map<Integer, Integer> all = new HashMap<>(global.said);
            all.putAll(said);
            return new Generators(all);
        }
    }

    /// @param amount of a modulator from velocity to attenuation; empty where the zone has none
    /// @param wheel of one from the modulation wheel to vibrato, in cents
    private record Zone(Generators generators, Optional<Integer> amount, Optional<Integer> wheel) {}

    /// Zones of a preset or an instrument, each with what the global one says.
    private List<Zone> zones(String head, String bag, String generator, String modulator, int record, int bagAt, int terminal) throws Refused {
        int from = u16(head, record, bagAt), to = u16(head, record + 1, bagAt);
        if (to < from) throw new Refused("'" + name(head, record) + "' has zones that go backwards");
        Zone global = new Zone(new Generators(Map.of()), Optional.empty(), Optional.empty());
        List<Zone> out = new ArrayList<>();
        for (int zone = from; zone < to; zone++) {
            Map<Integer, Integer> said = new HashMap<>();
            for (int g = u16(bag, zone, 0); g < u16(bag, zone + 1, 0); g++) {
                int what = u16(generator, g, 0);
                said.put(what,
                        what == KEYS || what == VELOCITIES || what == SAMPLE || what == INSTRUMENT ? u16(generator, g, 2) : (short) u16(generator, g, 2));
            }
            Optional<Integer> amount = Optional.empty(), wheel = Optional.empty();
            for (int m = u16(bag, zone, 2); m < u16(bag, zone + 1, 2); m++) {
                int source = u16(modulator, m, 0), target = u16(modulator, m, 2);
                if (source == VELOCITY_CONCAVE && target == ATTENUATION) amount = Optional.of((int) (short) u16(modulator, m, 4));
                if (source == WHEEL_LINEAR && target == VIBRATO) wheel = Optional.of((int) (short) u16(modulator, m, 4));
            }
            Zone own = new Zone(new Generators(said), amount, wheel);
            if (said.containsKey(terminal))
                out.add(new Zone(own.generators.over(global.generators), own.amount.or(global::amount), own.wheel.or(global::wheel)));
            else
                if (zone == from)
                    global = own;
                else
                    throw new Refused("'" + name(head, record) + "' has a zone without a " + (terminal == SAMPLE ? "sample" : "instrument"));
        }
        return out;
    }

    /// @param place of the file below the card
    List<Preset> presets(Path place) throws Refused {
        List<Preset> out = new ArrayList<>();
        Map<Integer, CardWave> waves = new HashMap<>();
        for (int preset = 0; preset < count("phdr") - 1; preset++) {
            List<Preset.Slot> slots = new ArrayList<>();
            for (Zone outer : zones("phdr", "pbag", "pgen", "pmod", preset, 24, INSTRUMENT)) {
                int instrument = outer.generators.get(INSTRUMENT, 0);
                if (instrument >= count("inst") - 1) throw new Refused("'" + name("phdr", preset) + "' names an instrument that is not there");
                for (Zone inner : zones("inst", "ibag", "igen", "imod", instrument, 20, SAMPLE))
                    slot(outer, inner, waves).ifPresent(slots::add);
            }
            if (slots.isEmpty()) throw new Refused("'" + name("phdr", preset) + "' has no sound");
            out.add(new Preset(name("phdr", preset), place, slots));
        }
        return out;
    }

    private Optional<Preset.Slot> slot(Zone outer, Zone inner, Map<Integer, CardWave> waves) throws Refused {
        Generators p = outer.generators, i = inner.generators;
        int low = Math.max(p.low(KEYS, 0), i.low(KEYS, 0)), high = Math.min(p.high(KEYS), i.high(KEYS)),
                softest = Math.max(p.low(VELOCITIES, 1), i.low(VELOCITIES, 1)), loudest = Math.min(p.high(VELOCITIES), i.high(VELOCITIES));
        if (low > high || softest > loudest) return Optional.empty();
        int sample = i.get(SAMPLE, 0);
        Header h = header(sample);
        CardWave wave = waves.computeIfAbsent(sample,
                _ -> new CardWave(path, new Pooled(path, samples + 2L * h.start, h.end - h.start, h.rateHz), 16, WaveFile.Own.NONE));
        int from = i.get(START, 0) + (i.get(START_COARSE, 0) << 15), to = h.end - h.start + i.get(END, 0) + (i.get(END_COARSE, 0) << 15);
        if (from < 0 || to > h.end - h.start || from >= to) throw new Refused("sample '" + h.name + "' is played from " + from + " to " + to);
        Preset.Loop loop = i.get(MODES, 0) % 2 == 0 ? Preset.Loop.NONE : loop(h, i);
        double sustainDb = -Math.clamp(sum(p, i, SUSTAIN, 0) / 10.0, 0, 100), cutoff = sum(p, i, CUTOFF, OPEN_CUTOFF);
        // A decay is said for a fall by 100 dB (section 8.1.2, generator 36).
        Preset.Shape shape = new Preset.Shape(seconds(sum(p, i, ATTACK, SHORTEST)), seconds(sum(p, i, HOLD, SHORTEST)),
                seconds(sum(p, i, DECAY, SHORTEST)) * -sustainDb / 100, sustainDb, Math.max(0.005, seconds(sum(p, i, RELEASE, SHORTEST))),
                cutoff >= OPEN_CUTOFF ? 0 : 8.176 * Math.pow(2, cutoff / 1200), sum(p, i, RESONANCE, 0) / 10.0,
                new Preset.Vibrato(sum(p, i, VIBRATO, 0), inner.wheel.orElse(USUAL_WHEEL_AMOUNT), 8.176 * Math.pow(2, sum(p, i, VIBRATO_PITCH, 0) / 1200.0),
                        seconds(sum(p, i, VIBRATO_DELAY, SHORTEST))));
        int root = i.get(ROOT, -1);
        return Optional.of(new Preset.Slot(low, high, softest, loudest, root < 0 ? h.root : root, 100 * sum(p, i, COARSE, 0) + sum(p, i, FINE, 0) + h.cents,
                sum(p, i, SCALE, 100), -sum(p, i, ATTENUATION, 0) / 10.0, Math.clamp(sum(p, i, PAN, 0) / 5.0, -100, 100),
                100.0 * inner.amount.orElse(USUAL_VELOCITY_AMOUNT) / USUAL_VELOCITY_AMOUNT, from, to, false, loop, i.get(EXCLUSIVE, 0), shape, wave));
    }

    private static int sum(Generators preset, Generators instrument, int generator, int usual) {
        return preset.get(generator, 0) + instrument.get(generator, usual);
    }

    private static double seconds(int timecents) { return timecents <= SHORTEST ? 0 : Math.pow(2, timecents / 1200.0); }

    /// At least 32 frames, with eight around it (section 7.10).
    private static Preset.Loop loop(Header h, Generators i) throws Refused {
        int start = h.loopStart - h.start + i.get(LOOP_START, 0) + (i.get(LOOP_START_COARSE, 0) << 15),
                end = h.loopEnd - h.start + i.get(LOOP_END, 0) + (i.get(LOOP_END_COARSE, 0) << 15), frames = h.end - h.start;
        if (start < AROUND_LOOP || end > frames - AROUND_LOOP || end - start < LEAST_LOOP)
            throw new Refused("sample '" + h.name + "' loops from " + start + " to " + end + " of " + frames + "; takes loops of " + LEAST_LOOP + " frames, "
                    + AROUND_LOOP + " from either end");
        return new Preset.Loop(start, end, false, 0);
    }

    /// A sound in the pool, 16 bit.
    private record Pooled(Path path, long start, long frames, int rateHz) implements HostSound {
        @Override public int channels() { return 1; }

        @Override public double[][] read(long from, int count) throws IOException {
            double[] plane = new double[count];
            try (FileChannel file = FileChannel.open(path)) {
                ByteBuffer all = bytes(file, start + 2 * from, 2 * (int) Math.min(count, frames - from));
                for (int n = 0; 2 * n + 1 < all.limit(); n++)
                    plane[n] = all.getShort(2 * n) / 32_768.0;
            }
            return new double[][]{plane};
        }
    }
}
