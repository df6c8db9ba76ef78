package ablecrate.codec.wav;

import ablecrate.audio.Depth;
import ablecrate.codec.Bytes;
import ablecrate.codec.Capabilities;
import ablecrate.codec.ChunkRole;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.PcmLayout;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundFacts;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/// WAV: its capabilities, how it knows itself, how a file is laid out.
///
/// A file we write: form header, (`ds64`), `fmt `, (`fact` for floats), facts in the order of the source or
/// `bext`, `smpl`, `inst`, `cue `, `LIST adtl`, `LIST INFO`, then `data` last. With the facts in front, a file that was cut
/// keeps them, and a stream needs no way back.
public final class WavFormat implements SoundFormat {
    private static final long RIFF_LIMIT = 0xFFFF_FFFFL;
    private static final Set<String> FILLER = Set.of("JUNK", "junk", "PAD ", "FLLR", "fact", "PEAK", "levl", "MD5 ", "ds64", "fmt ", "data");
    private static final Set<String> FACTS = Set.of("smpl", "inst", "cue ", "LIST", "bext");
    private static final Set<String> TRAVELLERS = Set.of("id3 ", "ID3 ", "_PMX");

    private static final Capabilities CAPABILITIES = new Capabilities(EnumSet.allOf(Depth.class), 0xFFFF, Long.MAX_VALUE,
            new Capabilities.Loops(Integer.MAX_VALUE, Integer.MAX_VALUE, EnumSet.allOf(LoopMode.class), true), Capabilities.FineTune.EXACT, true,
            true, new Capabilities.GainDb(-128, 127), true, true, true, true, EnumSet.allOf(TextField.class));

    @Override public String id() { return "wav"; }

    @Override public String name() { return "WAV"; }

    @Override public List<String> extensions() { return List.of("wav", "wave", "bwf", "rf64"); }

    @Override public Capabilities capabilities() { return CAPABILITIES; }

    @Override public boolean recognises(byte[] head) {
        if (head.length < 12) return false;
        String form = ascii(head, 0), type = ascii(head, 8);
        return type.equals("WAVE") && (form.equals("RIFF") || form.equals("RF64") || form.equals("BW64"));
    }

    private static String ascii(byte[] head, int at) { return new String(head, at, 4, java.nio.charset.StandardCharsets.ISO_8859_1); }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new WavReader(path).read(); }

    @Override public ChunkRole role(String chunkId) { return ChunkRole.of(chunkId, FILLER, FACTS, TRAVELLERS); }

    @Override public PcmLayout layout(OutputShape shape, SoundFacts facts, List<RawChunk> carried) {
        long channelMask = carried.stream().filter(c -> c.id().equals("fmt ")).findFirst().map(c -> FmtChunk.channelMask(c.contents())).orElse(0L);
        ChunkBuilder head = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN);
        head.chunk("fmt ", FmtChunk.write(shape, channelMask).toArray());
        if (shape.depth().isFloat()) head.chunk("fact", new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).u32(Math.min(shape.frames(), RIFF_LIMIT)).toArray());
        for (RawChunk chunk : factChunks(shape, facts, carried))
            head.chunk(chunk.id(), chunk.contents().toArray());

        long dataBytes = shape.frames() * shape.channels() * (shape.depth().bits() / 8);
        long pad = dataBytes % 2;
        long riffBytes = 4 + head.size() + 8 + dataBytes + pad;
        ChunkBuilder before = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN);
        if (riffBytes <= RIFF_LIMIT)
            before.id("RIFF").u32(riffBytes).id("WAVE").bytes(head.toArray()).id("data").u32(dataBytes);
        else
            before.id("RF64").u32(RIFF_LIMIT).id("WAVE").id("ds64").u32(28).u64(riffBytes + 36).u64(dataBytes).u64(shape.frames()).u32(0)
                    .bytes(head.toArray()).id("data").u32(RIFF_LIMIT);
        return new PcmLayout(before.toBytes(), FmtChunk.encodingOf(shape.depth()), pad == 1 ? Bytes.of((byte) 0) : Bytes.NONE);
    }

    private static List<RawChunk> factChunks(OutputShape shape, SoundFacts facts, List<RawChunk> carried) {
        List<RawChunk> out = new ArrayList<>();
        for (String id : order(carried))
            switch (id) {
            case "bext" -> facts.broadcast().ifPresent(b -> out.add(chunk("bext", BextChunk.write(b, contents(carried, "bext")))));
            case "smpl" -> smpl(shape, facts, carried).ifPresent(out::add);
            case "inst" -> inst(facts, carried).ifPresent(out::add);
            case "cue " -> {
                if (!facts.cues().isEmpty()) {
                    CueChunk source = contents(carried, "cue ").map(c -> parse("cue ", c, in -> CueChunk.read(in, new ArrayList<>())))
                            .orElse(new CueChunk(List.of()));
                    out.add(chunk("cue ", source.with(facts.cues()).toBytes()));
                }
            }
            case "adtl" -> list("adtl", AssociatedData.entries(facts.cues(), entries(carried, "adtl"))).ifPresent(out::add);
            case "INFO" -> list("INFO", InfoList.entries(facts.texts(), entries(carried, "INFO"))).ifPresent(out::add);
            default -> contents(carried, id).ifPresent(c -> out.add(new RawChunk(id, c)));
            }
        return out;
    }

    /// Chunks in the order of the source, then those it does not have.
    private static List<String> order(List<RawChunk> carried) {
        List<String> ids = new ArrayList<>();
        for (RawChunk chunk : carried) {
            String id = chunk.id().equals("LIST") ? listType(chunk) : chunk.id();
            if (!FILLER.contains(id) && !ids.contains(id)) ids.add(id);
        }
        for (String id : List.of("bext", "smpl", "inst", "cue ", "adtl", "INFO"))
            if (!ids.contains(id)) ids.add(id);
        return ids;
    }

    private static Optional<RawChunk> smpl(OutputShape shape, SoundFacts facts, List<RawChunk> carried) {
        Optional<SmplChunk> source = contents(carried, "smpl").map(c -> parse("smpl", c, in -> SmplChunk.read(in, Long.MAX_VALUE, new ArrayList<>())));
        Mapping mapping = facts.mapping();
        boolean saysSomething = !facts.loops().isEmpty() || mapping.rootKey().isPresent() || mapping.fineTuneCents() != 0;
        if (!saysSomething) return Optional.empty();
        return Optional.of(chunk("smpl", source.orElse(SmplChunk.EMPTY).with(mapping, facts.loops(), shape.rateHz()).toBytes()));
    }

    private static Optional<RawChunk> inst(SoundFacts facts, List<RawChunk> carried) {
        Mapping mapping = facts.mapping();
        Optional<Bytes> source = contents(carried, "inst");
        if (mapping.keys().isEmpty() && mapping.velocities().isEmpty() && mapping.gainDb().isEmpty()) return Optional.empty();
        if (source.isPresent()) {
            InstChunk old = parse("inst", source.get(), InstChunk::read);
            boolean saysTheSame = mapping.keys().equals(Optional.of(old.keys())) && mapping.velocities().equals(Optional.of(old.velocities()))
                    && mapping.gainDb().equals(Optional.of((double) old.gain())) && mapping.rootKey().equals(Optional.of(old.unshiftedNote()));
            // The tuning may differ from the finer one in 'smpl' even in the source; what it said stays as it was.
            if (saysTheSame) return Optional.of(chunk("inst", old.toBytes()));
        }
        return Optional.of(chunk("inst", InstChunk.of(mapping).toBytes()));
    }

    private static Optional<RawChunk> list(String type, List<RawChunk> entries) {
        return entries.isEmpty() ? Optional.empty() : Optional.of(chunk("LIST", new ListEntries(type, entries).toBytes()));
    }

    private static List<RawChunk> entries(List<RawChunk> carried, String type) {
        List<RawChunk> out = new ArrayList<>();
        for (RawChunk chunk : carried)
            if (chunk.id().equals("LIST") && listType(chunk).equals(type)) out.addAll(parse("LIST", chunk.contents(), ListEntries::read).entries());
        return out;
    }

    private static String listType(RawChunk list) {
        return list.contents().size() < 4 ? "LIST" : new String(list.contents().toArray(), 0, 4, java.nio.charset.StandardCharsets.ISO_8859_1);
    }

    private static RawChunk chunk(String id, byte[] contents) { return new RawChunk(id, Bytes.of(contents)); }

    private static Optional<Bytes> contents(List<RawChunk> carried, String id) {
        return carried.stream().filter(c -> c.id().equals(id)).findFirst().map(RawChunk::contents);
    }

    private interface Parser<T> {
        T read(ChunkReader in) throws FormatException;
    }

    /// Chunks that are carried have been read once without fault, when the file was described.
    private static <T> T parse(String id, Bytes contents, Parser<T> parser) {
        try {
            return parser.read(new ChunkReader(id, 0, contents.toArray(), ByteOrder.LITTLE_ENDIAN));
        } catch (FormatException e) {
            throw new IllegalStateException(e.getMessage(), e);
        }
    }
}
