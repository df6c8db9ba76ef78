package ablecrate.codec.wav;

import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.ChunkScanner;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.codec.riff.FmtChunk;
import ablecrate.codec.riff.RiffMetadata;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/// Reads the headers of one WAV, RF64 or BW64 file.
///
/// `ds64`, first chunk of the large forms, little-endian:
///
/// | offset | type | field |
/// |-------:|------|-------|
/// | 0 | u64 | riffSize |
/// | 8 | u64 | dataSize |
/// | 16 | u64 | frameCount |
/// | 24 | u32 | tableLength |
/// | 28 | 12 bytes each | id, u64 size of further large chunks |
///
/// Source: EBU Tech 3306 v1.1 (2009), section 4.
final class WavReader {
    private final Path path;
    private final List<Problem> problems = new ArrayList<>();

    WavReader(Path path) { this.path = path; }

    SoundFile read() throws IOException, FormatException {
        try (FileBytes file = new FileBytes(path)) {
            String form = new String(file.read(0, 4), StandardCharsets.ISO_8859_1);
            ChunkScanner scanner = new ChunkScanner(file, ByteOrder.LITTLE_ENDIAN, "data", sizes64(file, form));
            scanner.scan();
            problems.addAll(scanner.problems());
            List<ChunkInfo> chunks = scanner.chunks();
            FmtChunk fmt = null;
            for (ChunkInfo chunk : chunks)
                if (chunk.id().equals("fmt ") && fmt == null) fmt = FmtChunk.read(scanner.reader(chunk));
            if (fmt == null) throw missing("'fmt ' chunk, which says how the samples are stored");
            ChunkInfo data = chunks.stream().filter(c -> c.id().equals("data")).findFirst()
                    .orElseThrow(() -> missing("'data' chunk, which holds the audio"));
            SampleEncoding encoding = fmt.encoding();
            int frameBytes = encoding.containerBytes() * fmt.channels();
            long frames = data.bytes() / frameBytes;
            long missing = Math.ceilDiv(scanner.missingAudioBytes(), frameBytes);
            if (missing > 0)
                problems.add(Problem.lost(
                        String.format(Locale.ROOT, "the file is cut off: %,d of %,d frames are there, the last %.2f s is missing", frames, frames + missing,
                                (double) missing / fmt.rateHz()),
                        FormatException.place("data", data.end())));
            else
                if (data.bytes() % frameBytes != 0)
                    problems.add(Problem.note(data.bytes() % frameBytes + " bytes after the last whole frame", FormatException.place("data", data.end())));
            SoundMetadata metadata = RiffMetadata.read(chunks.stream().map(c -> new Part(scanner, c)).toList(), frames, problems);
            String container = form.equals("RIFF") ? fmt.isExtensible() ? "WAV extensible" : "WAV" : form;
            String codec = switch (encoding.kind()) {
                case FLOAT -> "float";
                case UNSIGNED -> "PCM unsigned";
                case SIGNED -> "PCM";
            };
            return new SoundFile(path, file.size(), "wav", container, codec, encoding, fmt.rateHz(), fmt.channels(), frames,
                    new AudioPlace.Interleaved(data.at()), metadata,
                    chunks, problems);
        }
    }

    private FormatException missing(String what) {
        return new FormatException("the file has no " + what, "", "It is incomplete; get it again.");
    }

    private static Map<String, Long> sizes64(FileBytes file, String form) throws IOException, FormatException {
        Map<String, Long> sizes = new HashMap<>();
        if (form.equals("RIFF")) return sizes;
        byte[] raw = file.read(12, 8 + 28);
        ChunkReader in = new ChunkReader("ds64", 20, raw, ByteOrder.LITTLE_ENDIAN);
        if (!in.id("id").equals("ds64")) throw in.bad("a large-file form without its 'ds64' chunk", "The file is damaged; get it again.");
        in.u32("size");
        in.s64("riffSize");
        sizes.put("data", Math.max(0, in.s64("dataSize")));
        in.s64("frameCount");
        long entries = Math.min(in.u32("tableLength"), 1000);
        ChunkReader table = new ChunkReader("ds64", 48, file.read(48, (int) entries * 12), ByteOrder.LITTLE_ENDIAN);
        for (long i = 0; i < entries && table.remaining() >= 12; i++)
            sizes.put(table.id("id"), Math.max(0, table.s64("size")));
        return sizes;
    }

    private record Part(ChunkScanner scanner, ChunkInfo chunk) implements RiffMetadata.Part {
        @Override public String id() { return chunk.id(); }

        @Override public ChunkReader open() throws IOException { return scanner.reader(chunk); }
    }
}
