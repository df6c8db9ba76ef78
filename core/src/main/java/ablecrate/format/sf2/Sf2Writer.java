package ablecrate.format.sf2;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.format.BankFormat;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.IntStream;

/// Writes a bank: each instrument a preset, each of its groups an instrument of the bank. What most zones of a group have stands once in its global
/// zone. A group that is as another one but for amounts that are the same for all zones shares its instrument, and its preset adds them.
/// Samples come first, in one direction; a stereo sound becomes two linked mono ones.
final class Sf2Writer {
    /// Zero frames behind each sample (section 6.1).
    private static final int GUARD = 46;
    /// Indexes have 16 bits.
    static final int MOST = 0xFFFF;
    private static final int NAME = Sf2Tables.NAME, BLOCK = 8192, COARSE = 32_768;

    /// Where a sound came to lie in the pool.
    /// @param header of its first channel
    private record Pooled(int header, int channels, int rootKey, Optional<FrameRange> loop) {}

    /// @param first zone of it
    private record Inst(int number, Bag first) {}

    private final OutputStream out;
    private final List<BankFormat.BankSound> sounds;
    private final BankFormat.Feed feed;
    private final boolean is24;
    private final List<Pooled> pooled = new ArrayList<>();
    /// The bank's instruments, by name and shape of their zones.
    private final Map<Object, Inst> written = new HashMap<>();
    private final ChunkBuilder presets = little(), presetBags = little(), presetGenerators = little(), insts = little(), instBags = little(),
            instGenerators = little(), instModulators = little(), headers = little();
    private int presetBagCount, presetGeneratorCount, instCount, instBagCount, instGeneratorCount, instModulatorCount, headerCount;

    Sf2Writer(OutputStream out, List<BankFormat.BankSound> sounds, BankFormat.Feed feed) {
        this.out = out;
        this.sounds = sounds;
        this.feed = feed;
        is24 = sounds.stream().anyMatch(s -> s.shape().depth() == Depth.INT_24);
    }

    private static ChunkBuilder little() { return new ChunkBuilder(ByteOrder.LITTLE_ENDIAN); }

    void write(About about, List<Instrument> instruments) throws IOException {
        Optional<String> tooMany = tooMany(instruments);
        if (tooMany.isPresent()) throw new IOException(tooMany.get());
        byte[] pdta = tables(), info = info(about);
        long frames = sounds.stream().mapToLong(s -> s.shape().channels() * (s.shape().frames() + GUARD)).sum();
        long sdta = 4 + 8 + 2 * frames + (is24 ? 8 + frames + frames % 2 : 0);
        out.write(little().id("RIFF").u32(4 + 8 + info.length + 8 + sdta + 8 + pdta.length).id("sfbk").id("LIST").u32(info.length).bytes(info).id("LIST")
                .u32(sdta)
                .id("sdta").id("smpl").u32(2 * frames).toArray());
        samples(16, 2);
        if (is24) {
            out.write(little().id("sm24").u32(frames).toArray());
            samples(0, 1);
            if (frames % 2 == 1) out.write(0);
        }
        out.write(little().id("LIST").u32(pdta.length).bytes(pdta).toArray());
    }

    /// Lays out all but the samples.
    /// @return what there is more of than indexes reach
    Optional<String> tooMany(List<Instrument> instruments) {
        pool();
        for (int i = 0; i < instruments.size(); i++)
            preset(instruments.get(i), i);
        Map<String, Integer> counts = new TreeMap<>(Map.of("layers of presets", presetBagCount, "settings of presets", presetGeneratorCount, "instruments",
                instCount, "zones", instBagCount, "settings",
                instGeneratorCount, "modulators", instModulatorCount, "samples", headerCount));
        return counts.entrySet().stream().filter(e -> e.getValue() > MOST).max(Map.Entry.comparingByValue())
                .map(e -> String.format(Locale.ROOT,
                        "a SoundFont bank holds %,d %s, this one would have %,d; pack fewer instruments into it, or one bank for each", MOST,
                        e.getKey(), e.getValue()));
    }

    /// The words (upper 16 of 24 bits) or the bytes below them.
    private void samples(int kept, int bytes) throws IOException {
        byte[] packed = new byte[BLOCK * bytes], guard = new byte[GUARD * bytes];
        for (int s = 0; s < sounds.size(); s++)
            for (int channel = 0; channel < sounds.get(s).shape().channels(); channel++)
                try (FrameSource source = feed.open(s)) {
                    double[][] block = new double[source.channels()][BLOCK];
                    for (int got; (got = source.read(block, 0, BLOCK)) > 0;) {
                        for (int i = 0; i < got; i++) {
                            int sample = (int) Math.clamp(Math.rint(block[channel][i] * 8_388_608), -8_388_608, 8_388_607);
                            if (kept == 16) {
                                packed[2 * i] = (byte) (sample >> 8);
                                packed[2 * i + 1] = (byte) (sample >> 16);
                            } else
                                packed[i] = (byte) sample;
                        }
                        out.write(packed, 0, got * bytes);
                    }
                    out.write(guard);
                }
    }

    private void pool() {
        long at = 0;
        for (BankFormat.BankSound sound : sounds) {
            long frames = sound.shape().frames();
            Optional<FrameRange> loop = sound.metadata().loops().stream().findFirst().map(Loop::frames);
            int channels = sound.shape().channels(), rootKey = sound.metadata().mapping().rootKey().orElse(60);
            pooled.add(new Pooled(headerCount, channels, rootKey, loop));
            for (int channel = 0; channel < channels; channel++) {
                String name = channels == 1
                        ? sound.name()
                        : sound.name().substring(0, Math.min(sound.name().length(), NAME - 2)) + (channel == 0 ? "_L" : "_R");
                int link = channels == 1 ? 0 : headerCount + (channel == 0 ? 1 : -1);
                int type = channels == 1 ? Sf2Tables.MONO : channel == 0 ? Sf2Tables.LEFT : Sf2Tables.RIGHT;
                headers.text(name, NAME).u32(at).u32(at + frames).u32(at + loop.map(FrameRange::start).orElse(0L))
                        .u32(at + loop.map(FrameRange::end).orElse(frames)).u32(sound.shape().rateHz()).u8(rootKey)
                        .u8(0)
                        .u16(link)
                        .u16(type);
                at += frames + GUARD;
            }
            headerCount += channels;
        }
    }

    private void preset(Instrument instrument, int place) {
        Instrument.Program program = instrument.program().orElse(new Instrument.Program(place / 128, place % 128, false));
        presets.text(instrument.name(), NAME).u16(program.number()).u16(program.isPercussion() ? Sf2Format.PERCUSSION : program.bank()).u16(presetBagCount)
                .u32(0).u32(0).u32(0);
        for (ZoneGroup group : instrument.groups()) {
            presetBags.u16(presetGeneratorCount).u16(0);
            presetBagCount++;
            String name = group.name().isEmpty() ? instrument.name() : group.name();
            List<Bag> bags = group.zones().stream().flatMap(z -> bags(z).stream()).toList();
            Bag first = bags.isEmpty() ? new Bag(Map.of(), List.of()) : bags.getFirst();
            Inst inst = written.computeIfAbsent(List.of(name, bags.stream().map(b -> b.shape(first)).toList()), _ -> inst(name, bags, first));
            // Section 8.1.2: what it plays comes last.
            first.over(inst.first).forEach(this::presetGenerator);
            presetGenerator(Generator.INSTRUMENT, inst.number);
        }
    }

    private void presetGenerator(Generator generator, int amount) {
        presetGenerators.u16(generator.number()).u16(amount & 0xFFFF);
        presetGeneratorCount++;
    }

    private List<Bag> bags(Zone zone) {
        Pooled sound = pooled.get(zone.sample());
        return IntStream.range(0, sound.channels()).mapToObj(channel -> new Bag(generators(zone, sound, channel), Sf2Modulators.of(zone))).toList();
    }

    private Inst inst(String name, List<Bag> bags, Bag first) {
        insts.text(name, NAME).u16(instBagCount);
        Map<Generator, Integer> usual = Bag.usual(bags);
        boolean sameModulators = bags.stream().allMatch(b -> b.modulators().equals(first.modulators()));
        List<Sf2Modulators.Modulator> common = sameModulators ? first.modulators() : List.of();
        // Even one of no zones has a bag.
        if (!usual.isEmpty() || !common.isEmpty() || bags.isEmpty()) bag(usual, common);
        for (Bag bag : bags)
            bag(bag.beside(usual), sameModulators ? List.of() : bag.modulators());
        return new Inst(instCount++, first);
    }

    /// Key range first, velocity range second, sample last (section 8.1.2); the enumeration has no such order.
    private void bag(Map<Generator, Integer> generators, List<Sf2Modulators.Modulator> modulators) {
        instBags.u16(instGeneratorCount).u16(instModulatorCount);
        instBagCount++;
        List<Generator> order = new ArrayList<>(generators.keySet());
        order.sort(Comparator.comparingInt(g -> switch (g) {
            case KEY_RANGE -> -2;
            case VEL_RANGE -> -1;
            case SAMPLE_ID -> 1000;
            default -> g.number();
        }));
        for (Generator g : order)
            instGenerators.u16(g.number()).u16(generators.get(g) & 0xFFFF);
        instGeneratorCount += order.size();
        for (Sf2Modulators.Modulator m : modulators)
            instModulators.u16(m.source()).u16(m.destination()).u16(m.amount() & 0xFFFF).u16(m.amountSource()).u16(m.transform());
        instModulatorCount += modulators.size();
    }

    private Map<Generator, Integer> generators(Zone zone, Pooled sound, int channel) {
        Map<Generator, Integer> out = Sf2Generators.of(zone);
        out.put(Generator.SAMPLE_ID, sound.header() + channel);
        zone.said(Parameter.KEYS).ifPresent(s -> out.put(Generator.KEY_RANGE, s.low() | s.high() << 8));
        zone.said(Parameter.VELOCITIES).ifPresent(s -> out.put(Generator.VEL_RANGE, s.low() | s.high() << 8));
        if (zone.get(Parameter.ROOT_KEY) != sound.rootKey()) out.put(Generator.ROOT_KEY, zone.get(Parameter.ROOT_KEY));
        int cents = (int) Math.rint(zone.get(Parameter.TUNING));
        int semitones = Math.round(cents / 100f);
        if (semitones != 0) out.put(Generator.COARSE_TUNE, semitones);
        if (cents - 100 * semitones != 0) out.put(Generator.FINE_TUNE, cents - 100 * semitones);
        if (sound.channels() == 2) {
            // Hard left and right, moved towards the pan's side.
            int pan = (int) Math.rint(zone.get(Parameter.PAN) * 10);
            out.put(Generator.PAN, channel == 0 ? -500 + Math.max(0, pan) : 500 + Math.min(0, pan));
        }
        long start = zone.get(Parameter.START), frames = frames(zone);
        offset(out, start, Generator.START_OFFSET, Generator.START_COARSE);
        zone.get(Parameter.END).ifPresent(end -> offset(out, end - frames, Generator.END_OFFSET, Generator.END_COARSE));
        zone.get(Parameter.LOOPS).stream().findFirst().ifPresent(loop -> {
            out.put(Generator.SAMPLE_MODES, zone.get(Parameter.LOOP_UNTIL_RELEASE) ? 3 : 1);
            FrameRange own = sound.loop().orElse(new FrameRange(0, frames));
            offset(out, loop.frames().start() - own.start(), Generator.LOOP_START_OFFSET, Generator.LOOP_START_COARSE);
            offset(out, loop.frames().end() - own.end(), Generator.LOOP_END_OFFSET, Generator.LOOP_END_COARSE);
        });
        return out;
    }

    private long frames(Zone zone) { return sounds.get(zone.sample()).shape().frames(); }

    private static void offset(Map<Generator, Integer> out, long frames, Generator fine, Generator coarse) {
        if (frames % COARSE != 0) out.put(fine, (int) (frames % COARSE));
        if (frames / COARSE != 0) out.put(coarse, (int) (frames / COARSE));
    }

    private byte[] tables() {
        presets.text("EOP", NAME).u16(0).u16(0).u16(presetBagCount).u32(0).u32(0).u32(0);
        presetBags.u16(presetGeneratorCount).u16(0);
        presetGenerators.u32(0);
        insts.text("EOI", NAME).u16(instBagCount);
        instBags.u16(instGeneratorCount).u16(instModulatorCount);
        instGenerators.u32(0);
        instModulators.bytes(new byte[Sf2Modulators.BYTES]);
        headers.text("EOS", NAME).bytes(new byte[26]);
        return little().id("pdta").chunk("phdr", presets.toArray()).chunk("pbag", presetBags.toArray()).chunk("pmod", new byte[Sf2Modulators.BYTES])
                .chunk("pgen", presetGenerators.toArray()).chunk("inst", insts.toArray()).chunk("ibag", instBags.toArray())
                .chunk("imod", instModulators.toArray())
                .chunk("igen", instGenerators.toArray()).chunk("shdr", headers.toArray()).toArray();
    }

    private byte[] info(About about) {
        ChunkBuilder info = little().id("INFO").chunk("ifil", little().u16(2).u16(is24 ? 4 : 1).toArray()).chunk("isng", text("EMU8000"))
                .chunk("INAM", text(about.name().isEmpty() ? "Bank" : about.name()));
        Sf2Format.INFO.forEach((id, field) -> {
            if (field != About.Field.NAME && !field.of(about).isEmpty()) info.chunk(id, text(field.of(about)));
        });
        return info.chunk("ISFT", text("Able Crate")).toArray();
    }

    /// Texts end with one or two zeros, so that their size is even (section 5).
    private static byte[] text(String text) {
        int size = text.getBytes(StandardCharsets.UTF_8).length;
        return little().text(text, Math.min(size, 65_534)).bytes(new byte[2 - Math.min(size, 65_534) % 2]).toArray();
    }
}
