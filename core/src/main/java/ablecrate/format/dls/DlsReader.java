package ablecrate.format.dls;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.chunk.ChunkLists;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.format.InstrumentFile;
import ablecrate.format.Sample;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

/// Reads a collection: each instrument with its regions as zones.
final class DlsReader {
    private static final int MAX_TABLE = 64 << 20, MAX_CONTENTS = 1 << 20;

    /// What plays a wave: of a region, or of the wave itself.
    /// @param loop with whether it ends with the key
    private record Playing(int unity, int fineTune, int gain, Optional<FrameRange> loop, boolean untilRelease) {}

    private record Wave(String name, int rateHz, SampleEncoding encoding, int channels, long at, long frames, Optional<Playing> playing) {}

    /// @param channel of a stereo pair: 1 left, 2 right
    private record Region(Zone zone, int wave, int phaseGroup, long channel) {}

    private final Path path;
    private final List<Problem> problems = new ArrayList<>();
    private final List<Sample> samples = new ArrayList<>();
    private final Map<List<Integer>, Integer> sampleNumbers = new HashMap<>();
    private List<Wave> waves = List.of();
    private FileBytes file;

    DlsReader(Path path) { this.path = path; }

    InstrumentFile read() throws IOException, FormatException {
        try (FileBytes opened = new FileBytes(path)) {
            file = opened;
            List<ChunkInfo> top = inside(new ChunkInfo("DLS ", 8, file.size() - 8));
            waves = waves(top);
            List<Instrument> instruments = new ArrayList<>();
            About about = about(top);
            for (ChunkInfo list : lists(top, "lins"))
                for (ChunkInfo ins : lists(inside(list), "ins "))
                    instruments.add(instrument(inside(ins)));
            if (instruments.isEmpty()) throw new FormatException("it lists no instrument", "", "There is nothing to play in it.");
            if (about.name().isEmpty()) about = about.with(About.Field.NAME, path.getFileName().toString());
            return new InstrumentFile(path, file.size(), DlsFormat.ID, "DLS", about, instruments, samples, List.of(), problems);
        }
    }

    /// What a list, or the form, holds behind the four characters of its kind.
    private List<ChunkInfo> inside(ChunkInfo list) throws IOException {
        return ChunkLists.inside(file, list.at() + 4, list.end(),
                c -> problems.add(Problem.lost("the chunk is cut off", FormatException.place(c.id(), c.at()))));
    }

    private List<ChunkInfo> lists(List<ChunkInfo> chunks, String... kinds) throws IOException {
        List<ChunkInfo> out = new ArrayList<>();
        for (ChunkInfo c : chunks)
            if (c.id().equals("LIST") && List.of(kinds).contains(ChunkLists.kind(file, c))) out.add(c);
        return out;
    }

    private Optional<ChunkReader> chunk(List<ChunkInfo> chunks, String id) throws IOException {
        for (ChunkInfo c : chunks)
            if (c.id().equals(id)) return Optional.of(ChunkLists.reader(file, c, MAX_CONTENTS));
        return Optional.empty();
    }

    private About about(List<ChunkInfo> chunks) throws IOException, FormatException {
        About about = About.named("");
        for (ChunkInfo info : lists(chunks, "INFO"))
            for (ChunkInfo text : inside(info)) {
                About.Field field = DlsFormat.INFO.get(text.id());
                ChunkReader in = ChunkLists.reader(file, text, 1 << 16);
                if (field != null) about = about.with(field, in.text(in.remaining(), text.id()).strip());
            }
        return about;
    }

    /// In the order of the pool table, which may name waves in any order.
    private List<Wave> waves(List<ChunkInfo> top) throws IOException, FormatException {
        Map<Long, Wave> byOffset = new TreeMap<>();
        for (ChunkInfo pool : lists(top, "wvpl"))
            for (ChunkInfo wave : lists(inside(pool), "wave"))
                wave(wave).ifPresent(w -> byOffset.put(wave.at() - 8 - (pool.at() + 4), w));
        Optional<ChunkInfo> table = top.stream().filter(c -> c.id().equals("ptbl")).findFirst();
        if (table.isEmpty()) return new ArrayList<>(byOffset.values());
        ChunkReader in = ChunkLists.reader(file, table.get(), MAX_TABLE);
        long header = in.u32("size");
        long count = in.u32("count");
        for (long skip = 8; skip < header && in.remaining() > 0; skip++)
            in.u8("reserved");
        List<Wave> out = new ArrayList<>();
        for (long i = 0; i < count && in.remaining() >= 4; i++)
            out.add(byOffset.get(in.u32("offset")));
        return out;
    }

    private Optional<Wave> wave(ChunkInfo list) throws IOException, FormatException {
        List<ChunkInfo> chunks = inside(list);
        Optional<ChunkReader> fmt = chunk(chunks, "fmt ");
        Optional<ChunkInfo> data = chunks.stream().filter(c -> c.id().equals("data")).findFirst();
        if (fmt.isEmpty() || data.isEmpty()) return Optional.empty();
        ChunkReader in = fmt.get();
        int tag = in.u16("format"), channels = in.u16("channels");
        long rate = in.u32("rate");
        in.u32("bytes a second");
        in.u16("frame size");
        int bits = in.u16("bits");
        if (tag != 1 || bits != 8 && bits != 16 && bits != 24 || channels < 1 || channels > 2 || rate < 400 || rate > 1_000_000) {
            problems.add(
                    Problem.lost("a wave is coded in a way that is not read (format " + tag + ", " + bits + " bits, " + channels + " channels)", in.place()));
            return Optional.empty();
        }
        SampleEncoding encoding = new SampleEncoding(bits == 8 ? SampleEncoding.Kind.UNSIGNED : SampleEncoding.Kind.SIGNED, bits / 8, bits,
                ByteOrder.LITTLE_ENDIAN);
        Optional<ChunkReader> wsmp = chunk(chunks, "wsmp");
        return Optional.of(new Wave(about(chunks).name(), (int) rate, encoding, channels, data.get().at(), data.get().bytes() / (channels * bits / 8),
                wsmp.isPresent() ? Optional.of(playing(wsmp.get())) : Optional.empty()));
    }

    private Playing playing(ChunkReader in) throws FormatException {
        long size = in.u32("size");
        int unity = in.u16("unity note"), fine = in.s16("fine tune"), gain = (int) in.u32("gain");
        in.u32("options");
        long loops = in.u32("loops");
        for (long skip = 20; skip < size && in.remaining() > 0; skip++)
            in.u8("reserved");
        if (loops == 0 || in.remaining() < 16) return new Playing(unity, fine, gain, Optional.empty(), false);
        in.u32("loop size");
        long type = in.u32("loop type"), start = in.u32("loop start"), length = in.u32("loop length");
        return new Playing(unity, fine, gain, length > 0 ? Optional.of(new FrameRange(start, start + length)) : Optional.empty(), type == 1);
    }

    private Instrument instrument(List<ChunkInfo> chunks) throws IOException, FormatException {
        About about = about(chunks);
        Optional<Instrument.Program> program = Optional.empty();
        Optional<ChunkReader> header = chunk(chunks, "insh");
        if (header.isPresent()) {
            header.get().u32("regions");
            long bank = header.get().u32("bank"), number = header.get().u32("program");
            program = Optional.of(new Instrument.Program((int) (bank >> 8 & 0x7F | (bank & 0x7F) << 7), (int) (number & 0x7F), bank >> 31 == 1));
        }
        // What the instrument's own articulation says holds where a region has none.
        List<DlsConnections.Block> common = articulation(chunks);
        List<Region> regions = new ArrayList<>();
        for (ChunkInfo list : lists(chunks, "lrgn"))
            for (ChunkInfo region : lists(inside(list), "rgn ", "rgn2"))
                region(inside(region), common, about.name()).ifPresent(regions::add);
        return new Instrument(about, program, List.of(new ZoneGroup("", joined(regions))));
    }

    private List<DlsConnections.Block> articulation(List<ChunkInfo> chunks) throws IOException, FormatException {
        List<DlsConnections.Block> out = new ArrayList<>();
        for (ChunkInfo list : lists(chunks, "lart", "lar2"))
            for (ChunkInfo art : inside(list)) {
                if (!art.id().equals("art1") && !art.id().equals("art2")) continue;
                ChunkReader in = ChunkLists.reader(file, art, MAX_CONTENTS);
                long size = in.u32("size"), count = in.u32("connections");
                for (long skip = 8; skip < size && in.remaining() > 0; skip++)
                    in.u8("reserved");
                for (long i = 0; i < count && in.remaining() >= 12; i++)
                    out.add(new DlsConnections.Block(in.u16("source"), in.u16("control"), in.u16("destination"), in.u16("transform"), (int) in.u32("scale")));
            }
        return out;
    }

    private Optional<Region> region(List<ChunkInfo> chunks, List<DlsConnections.Block> common, String name) throws IOException, FormatException {
        Optional<ChunkReader> header = chunk(chunks, "rgnh"), link = chunk(chunks, "wlnk");
        if (header.isEmpty() || link.isEmpty()) {
            problems.add(Problem.lost("a region of '" + name + "' has no header or no wave; it is left out", ""));
            return Optional.empty();
        }
        ChunkReader h = header.get(), l = link.get();
        Span keys = Span.lenient(h.u16("low key"), h.u16("high key")),
                velocities = Span.lenient(Math.max(1, h.u16("low velocity")), Math.max(1, h.u16("high velocity")));
        h.u16("options");
        int group = h.u16("key group");
        int options = l.u16("options"), phase = l.u16("phase group");
        long channel = l.u32("channel"), table = l.u32("table index");
        if (table >= waves.size() || waves.get((int) table) == null) {
            problems.add(Problem.lost("a region of '" + name + "' asks for wave " + table + " of " + waves.size() + "; it is left out", ""));
            return Optional.empty();
        }
        Wave wave = waves.get((int) table);
        Zone zone = Zone.of(0);
        if (!keys.equals(Parameter.KEYS.usual())) zone = zone.with(Parameter.KEYS, keys);
        if (!velocities.equals(Parameter.VELOCITIES.usual())) zone = zone.with(Parameter.VELOCITIES, velocities);
        Optional<ChunkReader> own = chunk(chunks, "wsmp");
        Optional<Playing> playing = own.isPresent() ? Optional.of(playing(own.get())) : wave.playing();
        if (playing.isPresent()) zone = played(zone, playing.get(), wave);
        if (group > 0) zone = zone.with(Parameter.EXCLUSIVE_GROUP, Math.min(127, group)).with(Parameter.SILENCED_BY, Math.min(127, group));
        List<DlsConnections.Block> blocks = articulation(chunks);
        zone = DlsConnections.into(zone, blocks.isEmpty() ? common : blocks);
        return Optional.of(new Region(DlsFormat.together(zone), (int) table, (options & DlsWriter.MULTICHANNEL) != 0 ? phase : 0, channel));
    }

    private Zone played(Zone zone, Playing p, Wave wave) {
        Zone out = zone.with(Parameter.ROOT_KEY, Math.clamp(p.unity(), 0, 127));
        if (p.fineTune() != 0) out = out.with(Parameter.TUNING, (double) Math.clamp(p.fineTune(), -12_700, 12_700));
        if (p.gain() != 0) out = out.with(Parameter.GAIN, Math.clamp(p.gain() / DlsFormat.GAIN_STEPS, -144, 48));
        if (p.loop().isEmpty()) return out;
        if (p.loop().get().end() > wave.frames()) {
            problems.add(Problem
                    .lost(String.format(Locale.ROOT, "a loop of '%s' ends at %,d, past its %,d frames; it is left out", wave.name(), p.loop().get().end(),
                            wave.frames()), ""));
            return out;
        }
        out = out.with(Parameter.LOOPS, List.of(Loop.sustain(p.loop().get(), LoopMode.FORWARD)));
        return p.untilRelease() ? out.with(Parameter.LOOP_UNTIL_RELEASE, true) : out;
    }

    private List<Zone> joined(List<Region> regions) {
        List<Zone> out = new ArrayList<>();
        Set<Region> done = Collections.newSetFromMap(new IdentityHashMap<>());
        for (Region region : regions) {
            if (!done.add(region)) continue;
            Optional<Region> other = region.phaseGroup() == 0
                    ? Optional.empty()
                    : regions.stream().filter(r -> !done.contains(r) && r.phaseGroup() == region.phaseGroup() && r.channel() != region.channel()
                            && r.zone().equals(region.zone()) && waves.get(r.wave()).rateHz() == waves.get(region.wave()).rateHz()).findFirst();
            other.ifPresent(done::add);
            List<Integer> numbers = other.isEmpty()
                    ? List.of(region.wave())
                    : region.channel() <= other.get().channel() ? List.of(region.wave(), other.get().wave()) : List.of(other.get().wave(), region.wave());
            out.add(region.zone().withSample(sampleNumbers.computeIfAbsent(numbers, _ -> {
                samples.add(sample(numbers));
                return samples.size() - 1;
            })));
        }
        return out;
    }

    private Sample sample(List<Integer> numbers) {
        List<SoundFile> sides = numbers.stream().map(n -> sound(waves.get(n))).toList();
        SoundFile first = sides.getFirst();
        String name = waves.get(numbers.getFirst()).name();
        if (sides.size() == 1) return new Sample.Found(name.isEmpty() ? "wave " + numbers.getFirst() : name, first);
        return new Sample.Found(name.replaceFirst("[ _-]L$", ""),
                new SoundFile(path, first.fileBytes(), DlsFormat.ID, first.container(), first.codec(), first.encoding(), first.rateHz(), 2,
                        Math.max(first.frames(), sides.get(1).frames()), new AudioPlace.Sides(first, sides.get(1)), first.metadata(), List.of(), List.of()));
    }

    private SoundFile sound(Wave wave) {
        return new SoundFile(path, file.size(), DlsFormat.ID, "DLS wave", "PCM", wave.encoding(), wave.rateHz(), wave.channels(), wave.frames(),
                new AudioPlace.Interleaved(wave.at()),
                wave.name().isEmpty() ? SoundMetadata.NONE : SoundMetadata.NONE.withTexts(Map.of(TextField.NAME, wave.name())), List.of(), List.of());
    }
}
