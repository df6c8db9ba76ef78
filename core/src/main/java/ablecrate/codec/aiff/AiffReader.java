package ablecrate.codec.aiff;

import ablecrate.audio.FrameRange;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.ChunkScanner;
import ablecrate.codec.chunk.FileBytes;
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
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Reads the headers of one AIFF or AIFF-C file.
///
/// `SSND`, big-endian: u32 offset of the first frame behind the two fields, u32 block size (0), then the samples.
/// Source: AIFF 1.3, Sound Data Chunk.
final class AiffReader {
    private final Path path;
    private final List<Problem> problems = new ArrayList<>();

    AiffReader(Path path) { this.path = path; }

    SoundFile read() throws IOException, FormatException {
        try (FileBytes file = new FileBytes(path)) {
            boolean isAifc = new String(file.read(8, 4), StandardCharsets.ISO_8859_1).equals("AIFC");
            ChunkScanner scanner = new ChunkScanner(file, ByteOrder.BIG_ENDIAN, "SSND", Map.of());
            scanner.scan();
            problems.addAll(scanner.problems());
            List<ChunkInfo> chunks = scanner.chunks();
            ChunkInfo commChunk = chunks.stream().filter(c -> c.id().equals("COMM")).findFirst()
                    .orElseThrow(() -> missing("'COMM' chunk, which says how the samples are stored"));
            CommChunk comm = CommChunk.read(scanner.reader(commChunk), isAifc, problems);
            Optional<ChunkInfo> sound = chunks.stream().filter(c -> c.id().equals("SSND")).findFirst();
            if (sound.isEmpty() && comm.frames() > 0) throw missing("'SSND' chunk, which holds the audio");
            long audioAt = sound.map(c -> c.at() + 8).orElse(file.size()), audioBytes = 0;
            if (sound.isPresent()) {
                long offset = scanner.reader(sound.get()).u32("offset");
                audioAt += Math.min(offset, Math.max(0, sound.get().bytes() - 8));
                audioBytes = Math.max(0, sound.get().end() - audioAt);
            }
            long held = audioBytes / (comm.encoding().containerBytes() * comm.channels()), frames = Math.min(held, comm.frames());
            if (held < comm.frames())
                problems.add(Problem
                        .lost(String.format(Locale.ROOT, "the file is cut off: %,d of %,d frames are there, the last %.2f s is missing", held, comm.frames(),
                                (double) (comm.frames() - held) / comm.rateHz()), "'COMM' chunk"));
            return new SoundFile(path, file.size(), "aiff", isAifc ? "AIFC" : "AIFF", comm.codec(), comm.encoding(), comm.rateHz(),
                    comm.channels(), frames, new AudioPlace.Interleaved(audioAt), metadata(scanner, chunks, frames), chunks, problems);
        }
    }

    private FormatException missing(String what) {
        return new FormatException("the file has no " + what, "", "It is incomplete; get it again.");
    }

    private SoundMetadata metadata(ChunkScanner scanner, List<ChunkInfo> chunks, long frames) throws IOException {
        MarkChunk marks = new MarkChunk(List.of());
        Optional<AiffInstChunk> inst = Optional.empty();
        Map<TextField, String> texts = new EnumMap<>(TextField.class);
        for (ChunkInfo chunk : chunks) {
            try {
                switch (chunk.id()) {
                    case "MARK" -> marks = MarkChunk.read(scanner.reader(chunk));
                    case "INST" -> inst = Optional.of(AiffInstChunk.read(scanner.reader(chunk)));
                    default -> {
                        TextField field = AiffFormat.TEXT_IDS.get(chunk.id());
                        ChunkReader in = scanner.reader(chunk);
                        if (field != null) {
                            String text = in.text(in.remaining(), chunk.id());
                            if (texts.putIfAbsent(field, text) != null) problems.add(Problem.own("a second text '" + chunk.id() + "' (" + text + ")", ""));
                        }
                    }
                }
            } catch (FormatException e) {
                problems.add(Problem.lost(e.what() + "; the chunk is left out", e.place()));
            }
        }
        List<Loop> loops = new ArrayList<>();
        Set<Integer> loopMarks = new HashSet<>();
        if (inst.isPresent()) {
            addLoop(loops, loopMarks, inst.get().sustain(), Loop.Use.SUSTAIN, marks, frames);
            addLoop(loops, loopMarks, inst.get().release(), Loop.Use.RELEASE, marks, frames);
        }
        List<Cue> cues = new ArrayList<>();
        for (MarkChunk.Marker marker : marks.markers()) {
            if (loopMarks.contains(marker.id())) continue;
            if (marker.position() > frames)
                problems.add(Problem.lost("marker " + marker.id() + " stands at frame " + marker.position() + ", past the end; it is left out",
                        "'MARK' chunk"));
            else
                cues.add(new Cue(marker.id(), marker.position(), 0, Optional.of(marker.text()).filter(t -> !t.isEmpty()), Optional.empty()));
        }
        Mapping mapping = inst.map(i -> new Mapping(i.baseNote() > 127 ? Optional.empty() : Optional.of(i.baseNote()), i.detune(),
                Optional.of(Span.lenient(i.lowNote(), i.highNote())), Optional.of(Span.lenient(i.lowVelocity(), i.highVelocity())),
                Optional.of((double) i.gainDb()))).orElse(Mapping.NONE);
        return new SoundMetadata(loops, mapping, cues, Optional.empty(), texts);
    }

    private void addLoop(List<Loop> loops, Set<Integer> used, AiffInstChunk.LoopMarks loop, Loop.Use use, MarkChunk marks, long frames) {
        if (loop.playMode() != 1 && loop.playMode() != 2) return;
        String which = use == Loop.Use.SUSTAIN ? "the sustain loop" : "the release loop";
        Optional<MarkChunk.Marker> begin = marks.byId(loop.beginId()), end = marks.byId(loop.endId());
        if (begin.isEmpty() || end.isEmpty()) {
            problems.add(Problem.lost(which + " names a marker that does not exist; it is left out", "'INST' chunk"));
            return;
        }
        used.add(loop.beginId());
        used.add(loop.endId());
        long from = begin.get().position(), to = end.get().position();
        if (from >= to || to > frames)
            problems.add(Problem.lost(which + " from " + from + " to " + to + " does not lie within the " + frames + " frames; it is left out",
                    "'INST' chunk"));
        else // Markers stand between frames, so the end is already the first frame after the loop.
            loops.add(new Loop(new FrameRange(from, to), loop.playMode() == 1 ? LoopMode.FORWARD : LoopMode.ALTERNATING, use, 0, 0, 0));
    }
}
