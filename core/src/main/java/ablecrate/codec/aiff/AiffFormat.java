package ablecrate.codec.aiff;

import ablecrate.audio.Depth;
import ablecrate.codec.Bytes;
import ablecrate.codec.Capabilities;
import ablecrate.codec.ChunkRole;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.PcmFormat;
import ablecrate.codec.PcmLayout;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFile;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// AIFF: its capabilities, how it knows itself, how a file is laid out.
///
/// A file we write: form header, (`FVER` for AIFF-C), `COMM`, texts, `MARK`, `INST`, chunks of the source, `SSND` last.
public final class AiffFormat implements PcmFormat {
    static final Map<String, TextField> TEXT_IDS = Map.of("NAME", TextField.NAME, "AUTH", TextField.ARTIST, "(c) ", TextField.COPYRIGHT,
            "ANNO", TextField.COMMENT);
    private static final long AIFC_VERSION_1 = 0xA280_5140L;
    private static final Set<String> FILLER = Set.of("COMM", "FVER", "SSND", "FLLR", "free", "PEAK");
    private static final Set<String> METADATA = Set.of("MARK", "INST", "NAME", "AUTH", "(c) ", "ANNO");
    private static final Set<String> TRAVELLERS = Set.of("COMT", "APPL", "ID3 ");

    /// A marker is told by a number from 1 on in 16 bits with a sign; the ends of two loops are markers as well.
    private static final int MOST_MARKERS = 32_767, MARKERS_OF_LOOPS = 4;
    private static final Capabilities CAPABILITIES = new Capabilities(EnumSet.allOf(Depth.class), 0x7FFF, 0xFFFF_FFFFL,
            new Capabilities.Loops(1, 1, EnumSet.of(LoopMode.FORWARD, LoopMode.ALTERNATING), false), Capabilities.FineTune.WHOLE_CENTS, true, true,
            new Capabilities.GainDb(-32768, 32767), MOST_MARKERS - MARKERS_OF_LOOPS, true, false, false,
            EnumSet.of(TextField.NAME, TextField.ARTIST, TextField.COPYRIGHT, TextField.COMMENT));

    @Override public String id() { return "aiff"; }

    @Override public String name() { return "AIFF"; }

    @Override public List<String> extensions() { return List.of("aif", "aiff", "aifc"); }

    @Override public Capabilities capabilities() { return CAPABILITIES; }

    @Override public boolean recognises(byte[] head) {
        if (head.length < 12) return false;
        String text = new String(head, 0, 12, StandardCharsets.ISO_8859_1);
        return text.startsWith("FORM") && (text.endsWith("AIFF") || text.endsWith("AIFC"));
    }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new AiffReader(path).read(); }

    @Override public ChunkRole role(String chunkId) { return ChunkRole.of(chunkId, FILLER, METADATA, TRAVELLERS); }

    @Override public PcmLayout layout(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried) {
        boolean isAifc = shape.depth().isFloat();
        ChunkBuilder head = new ChunkBuilder(ByteOrder.BIG_ENDIAN);
        if (isAifc) head.chunk("FVER", new ChunkBuilder(ByteOrder.BIG_ENDIAN).u32(AIFC_VERSION_1).toArray());
        head.chunk("COMM", CommChunk.write(shape));
        texts(metadata.texts(), carried, head);
        marks(metadata, carried, head);
        for (RawChunk chunk : carried)
            if (!FILLER.contains(chunk.id()) && !TEXT_IDS.containsKey(chunk.id()) && !chunk.id().equals("MARK") && !chunk.id().equals("INST"))
                head.chunk(chunk.id(), chunk.contents().toArray());

        long audioBytes = shape.frames() * shape.channels() * shape.depth().bytes(), pad = audioBytes % 2;
        long formBytes = 4 + head.size() + 8 + 8 + audioBytes + pad;
        ChunkBuilder before = new ChunkBuilder(ByteOrder.BIG_ENDIAN).id("FORM").u32(formBytes).id(isAifc ? "AIFC" : "AIFF").bytes(head.toArray())
                .id("SSND").u32(8 + audioBytes).u32(0).u32(0);
        return new PcmLayout(before.toBytes(), CommChunk.encodingOf(shape.depth()), pad == 1 ? Bytes.of((byte) 0) : Bytes.NONE);
    }

    private static void texts(Map<TextField, String> texts, List<RawChunk> carried, ChunkBuilder head) {
        for (String id : List.of("NAME", "AUTH", "(c) ", "ANNO")) {
            List<RawChunk> source = carried.stream().filter(c -> c.id().equals(id)).toList();
            String text = texts.get(TEXT_IDS.get(id));
            boolean isSame = !source.isEmpty() && ChunkReader.text(source.getFirst().contents().toArray()).equals(text);
            if (isSame)
                source.forEach(c -> head.chunk(id, c.contents().toArray()));
            else
                if (text != null) head.chunk(id, text.getBytes(StandardCharsets.UTF_8));
        }
    }

    /// Markers keep the ids and names of the source; loops and cues that it does not have get the next free ids.
    private static void marks(SoundMetadata metadata, List<RawChunk> carried, ChunkBuilder head) {
        Optional<MarkChunk> sourceMarks = find(carried, "MARK").map(c -> parseMark(c));
        Optional<AiffInstChunk> sourceInst = find(carried, "INST").map(c -> parseInst(c));
        Optional<Loop> sustain = loop(metadata, Loop.Use.SUSTAIN), release = loop(metadata, Loop.Use.RELEASE);
        List<MarkChunk.Marker> markers = new ArrayList<>();
        Set<Long> ofLoops = sourceInst.stream().flatMap(i -> Stream.of(i.sustain(), i.release())).filter(l -> l.playMode() != 0)
                .flatMap(l -> Stream.of((long) l.beginId(), (long) l.endId())).collect(Collectors.toSet());
        int highest = metadata.cues().stream().mapToInt(c -> (int) c.id()).max().orElse(0);
        for (Cue cue : metadata.cues()) {
            boolean isNew = ofLoops.contains(cue.id());
            byte[] name = sourceMarks.filter(_ -> !isNew).flatMap(m -> m.byId(cue.id())).map(MarkChunk.Marker::name)
                    .orElseGet(() -> pstring(cue.label().orElse("")));
            markers.add(new MarkChunk.Marker(isNew ? Math.max(highest + 1, nextId(markers, sourceMarks)) : Math.clamp(cue.id(), 1, 32767), cue.frame(), name));
        }
        Mapping mapping = metadata.mapping();
        AiffInstChunk.LoopMarks sustainMarks = loopMarks(sustain, sourceInst.map(AiffInstChunk::sustain), sourceMarks, markers, "loop");
        AiffInstChunk.LoopMarks releaseMarks = loopMarks(release, sourceInst.map(AiffInstChunk::release), sourceMarks, markers, "release");
        sourceMarks.ifPresent(source -> {
            List<Integer> order = source.markers().stream().map(MarkChunk.Marker::id).toList();
            markers.sort(java.util.Comparator.comparingInt(m -> order.contains(m.id()) ? order.indexOf(m.id()) : order.size()));
        });
        if (!markers.isEmpty()) head.chunk("MARK", new MarkChunk(markers).toBytes());
        boolean saysSomething = !mapping.isEmpty() || sustain.isPresent() || release.isPresent();
        if (!saysSomething) return;
        Span keys = mapping.keys().orElse(new Span(0, 127)), velocities = mapping.velocities().orElse(new Span(1, 127));
        head.chunk("INST", new AiffInstChunk(mapping.rootKey().orElse(60), (int) Math.clamp(Math.rint(mapping.fineTuneCents()), -50, 50), keys.low(),
                keys.high(), velocities.low(), velocities.high(), (int) Math.clamp(Math.rint(mapping.gainDb().orElse(0.0)), -32768, 32767), sustainMarks,
                releaseMarks).toBytes());
    }

    private static Optional<Loop> loop(SoundMetadata metadata, Loop.Use use) { return metadata.loops().stream().filter(l -> l.use() == use).findFirst(); }

    private static AiffInstChunk.LoopMarks loopMarks(Optional<Loop> loop, Optional<AiffInstChunk.LoopMarks> source, Optional<MarkChunk> sourceMarks,
            List<MarkChunk.Marker> markers, String name) {
        if (loop.isEmpty()) return AiffInstChunk.LoopMarks.NONE;
        boolean reusable = source.isPresent() && source.get().playMode() != 0;
        int begin = reusable ? source.get().beginId() : nextId(markers, sourceMarks);
        add(markers, begin, loop.get().frames().start(), sourceMarks, name + " start");
        int end = reusable ? source.get().endId() : nextId(markers, sourceMarks);
        add(markers, end, loop.get().frames().end(), sourceMarks, name + " end");
        return new AiffInstChunk.LoopMarks(loop.get().mode() == LoopMode.ALTERNATING ? 2 : 1, begin, end);
    }

    private static void add(List<MarkChunk.Marker> markers, int id, long position, Optional<MarkChunk> source, String name) {
        if (markers.stream().anyMatch(m -> m.id() == id)) return;
        markers.add(new MarkChunk.Marker(id, position, source.flatMap(s -> s.byId(id)).map(MarkChunk.Marker::name).orElseGet(() -> pstring(name))));
    }

    private static int nextId(List<MarkChunk.Marker> markers, Optional<MarkChunk> source) {
        int highest = 0;
        for (MarkChunk.Marker m : markers)
            highest = Math.max(highest, m.id());
        for (MarkChunk.Marker m : source.map(MarkChunk::markers).orElse(List.of()))
            highest = Math.max(highest, m.id());
        return highest + 1;
    }

    private static byte[] pstring(String text) {
        byte[] raw = text.getBytes(StandardCharsets.UTF_8);
        return raw.length <= 255 ? raw : Arrays.copyOf(raw, 255);
    }

    private static Optional<RawChunk> find(List<RawChunk> carried, String id) { return carried.stream().filter(c -> c.id().equals(id)).findFirst(); }

    private static MarkChunk parseMark(RawChunk chunk) {
        try {
            return MarkChunk.read(new ChunkReader("MARK", 0, chunk.contents().toArray(), ByteOrder.BIG_ENDIAN));
        } catch (FormatException damagedInTheSource) {
            return new MarkChunk(List.of());
        }
    }

    private static AiffInstChunk parseInst(RawChunk chunk) {
        try {
            return AiffInstChunk.read(new ChunkReader("INST", 0, chunk.contents().toArray(), ByteOrder.BIG_ENDIAN));
        } catch (FormatException damagedInTheSource) {
            return new AiffInstChunk(60, 0, 0, 127, 1, 127, 0, AiffInstChunk.LoopMarks.NONE, AiffInstChunk.LoopMarks.NONE);
        }
    }
}
