package ablecrate.codec.riff;

import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Problem;
import ablecrate.codec.RawChunk;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// A sound's metadata as the chunks of RIFF hold them: `smpl`, `inst`, `cue `, `bext`, `LIST`. WAV has them between its own chunks, FLAC
/// in application blocks, W64 under long names.
public final class RiffMetadata {
    /// Chunks that are read into metadata and written from them.
    public static final Set<String> IDS = Set.of("smpl", "inst", "cue ", "LIST", "bext");

    /// Texts that there is an entry for.
    public static final Set<TextField> TEXTS = InfoList.FIELDS;

    private RiffMetadata() {}

    /// A chunk of a file, read when it is asked for.
    public interface Part {
        String id();

        ChunkReader open() throws IOException;
    }

    /// A broken chunk of metadata costs that chunk, not the sound.
    /// @param frames of the sound; what lies beyond is left out and told
    public static SoundMetadata read(List<? extends Part> chunks, long frames, List<Problem> problems) throws IOException {
        List<Loop> loops = List.of();
        Optional<SmplChunk> smpl = Optional.empty();
        Optional<InstChunk> inst = Optional.empty();
        Optional<Broadcast> broadcast = Optional.empty();
        List<CueChunk.Point> points = List.of();
        List<RawChunk> associated = new ArrayList<>();
        Map<TextField, String> texts = new EnumMap<>(TextField.class);
        for (Part chunk : chunks) {
            if (!IDS.contains(chunk.id())) continue;
            try {
                ChunkReader in = chunk.open();
                switch (chunk.id()) {
                    case "smpl" -> {
                        if (smpl.isEmpty()) {
                            smpl = Optional.of(SmplChunk.read(in, frames, problems));
                            loops = smpl.get().loops();
                            smpl.get().own().forEach(o -> problems.add(Problem.own(o, "'smpl' chunk")));
                        }
                    }
                    case "inst" -> inst = Optional.of(InstChunk.read(in));
                    case "bext" -> broadcast = Optional.of(BextChunk.read(in));
                    case "cue " -> points = CueChunk.read(in, problems).points();
                    default -> {
                        ListEntries list = ListEntries.read(in);
                        if (list.type().equals("adtl")) {
                            associated.addAll(list.entries());
                            AssociatedData.own(list.entries()).forEach(o -> problems.add(Problem.own(o, "'adtl' list")));
                        }
                        if (list.type().equals("INFO")) {
                            InfoList.texts(list.entries()).forEach(texts::putIfAbsent);
                            InfoList.own(list.entries()).forEach(o -> problems.add(Problem.own(o, "'INFO' list")));
                        }
                    }
                }
            } catch (FormatException e) {
                problems.add(Problem.lost(e.what() + "; the chunk is left out", e.place()));
            }
        }
        List<Cue> cues = new ArrayList<>();
        for (Cue cue : AssociatedData.named(points, associated))
            if (cue.frame() <= frames)
                cues.add(cue.at(cue.frame(), Math.min(cue.lengthFrames(), frames - cue.frame())));
            else
                problems.add(Problem.lost("cue " + cue.id() + " stands at frame " + cue.frame() + ", past the end; it is left out", "'cue ' chunk"));
        return new SoundMetadata(loops, mapping(smpl, inst), cues, broadcast, texts);
    }

    private static Mapping mapping(Optional<SmplChunk> smpl, Optional<InstChunk> inst) {
        Mapping mapping = Mapping.NONE;
        if (inst.isPresent()) {
            InstChunk i = inst.get();
            mapping = new Mapping(i.unshiftedNote() > 127 ? Optional.empty() : Optional.of(i.unshiftedNote()), i.fineTune(),
                    Optional.of(i.keys()), Optional.of(i.velocities()), Optional.of((double) i.gain()));
        }
        if (smpl.isPresent()) mapping = mapping.withRootKey(smpl.get().rootKey()).withFineTune(smpl.get().fineTuneCents());
        return mapping;
    }

    /// Chunks that say the metadata.
    /// @param carried chunks of the source, whose further contents (vendor fields, order) are kept; those that are no metadata are handed on as they are
    public static List<RawChunk> chunks(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried) {
        List<RawChunk> out = new ArrayList<>();
        for (String id : order(carried))
            switch (id) {
            case "bext" -> metadata.broadcast().ifPresent(b -> out.add(chunk("bext", BextChunk.write(b, contents(carried, "bext")))));
            case "smpl" -> smpl(shape, metadata, carried).ifPresent(out::add);
            case "inst" -> inst(metadata, carried).ifPresent(out::add);
            case "cue " -> {
                if (!metadata.cues().isEmpty()) {
                    CueChunk source = contents(carried, "cue ").map(c -> parse("cue ", c, in -> CueChunk.read(in, new ArrayList<>())))
                            .orElse(new CueChunk(List.of()));
                    out.add(chunk("cue ", source.with(metadata.cues()).toBytes()));
                }
            }
            case "adtl" -> list("adtl", AssociatedData.entries(metadata.cues(), entries(carried, "adtl"))).ifPresent(out::add);
            case "INFO" -> list("INFO", InfoList.entries(metadata.texts(), entries(carried, "INFO"))).ifPresent(out::add);
            case "iXML" -> contents(carried, id)
                    .ifPresent(c -> out.add(new RawChunk(id, IxmlChunk.adapted(c, shape, metadata.broadcast().map(Broadcast::timeReferenceFrames)))));
            default -> contents(carried, id).ifPresent(c -> out.add(new RawChunk(id, c)));
            }
        return out;
    }

    /// Notes of the production tell when a sound starts; where broadcast data do too, theirs is taken.
    /// @param frames that are taken off the start
    public static RawChunk later(RawChunk chunk, long frames) {
        return chunk.id().equals("iXML") && frames > 0 ? new RawChunk(chunk.id(), IxmlChunk.later(chunk.contents(), frames)) : chunk;
    }

    /// Chunks in the order of the source, then those it does not have.
    private static List<String> order(List<RawChunk> carried) {
        List<String> ids = new ArrayList<>();
        for (RawChunk chunk : carried) {
            String id = chunk.id().equals("LIST") ? listType(chunk) : chunk.id();
            if (!ids.contains(id)) ids.add(id);
        }
        for (String id : List.of("bext", "smpl", "inst", "cue ", "adtl", "INFO"))
            if (!ids.contains(id)) ids.add(id);
        return ids;
    }

    private static Optional<RawChunk> smpl(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried) {
        Optional<SmplChunk> source = contents(carried, "smpl").map(c -> parse("smpl", c, in -> SmplChunk.read(in, Long.MAX_VALUE, new ArrayList<>())));
        Mapping mapping = metadata.mapping();
        boolean saysSomething = !metadata.loops().isEmpty() || mapping.rootKey().isPresent() || mapping.fineTuneCents() != 0;
        if (!saysSomething) return Optional.empty();
        return Optional.of(chunk("smpl", source.orElse(SmplChunk.EMPTY).with(mapping, metadata.loops(), shape.rateHz()).toBytes()));
    }

    private static Optional<RawChunk> inst(SoundMetadata metadata, List<RawChunk> carried) {
        Mapping mapping = metadata.mapping();
        Optional<Bytes> source = contents(carried, "inst");
        if (mapping.keys().isEmpty() && mapping.velocities().isEmpty() && mapping.gainDb().isEmpty()) return Optional.empty();
        if (source.isPresent()) {
            InstChunk old = parse("inst", source.get(), InstChunk::read);
            double tuned = contents(carried, "smpl").map(c -> parse("smpl", c, in -> SmplChunk.read(in, Long.MAX_VALUE, new ArrayList<>())).fineTuneCents())
                    .orElse((double) old.fineTune());
            boolean saysTheSame = Math.abs(mapping.fineTuneCents() - tuned) < 1e-7 && mapping.keys().equals(Optional.of(old.keys()))
                    && mapping.velocities().equals(Optional.of(old.velocities()))
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
        return list.contents().size() < 4 ? "LIST" : new String(list.contents().toArray(), 0, 4, StandardCharsets.ISO_8859_1);
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
