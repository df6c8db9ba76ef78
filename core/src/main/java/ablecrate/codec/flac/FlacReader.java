package ablecrate.codec.flac;

import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.Compression;
import ablecrate.codec.FormatException;
import ablecrate.codec.Losses;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.codec.riff.RiffMetadata;
import ablecrate.codec.tags.VorbisComments;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Reads what a native FLAC file says, and looks through its frames: whether they are whole, and where they lie.
final class FlacReader {
    private static final int STREAMINFO = 0, APPLICATION = 2, COMMENT = 4, PICTURE = 6, MAX_BLOCK = 1 << 24, MAX_CONTENTS = 4 << 20;
    private static final int SECONDS_PER_MARK = 10;

    private final Path path;
    private final List<Problem> problems = new ArrayList<>();
    private final List<ChunkInfo> chunks = new ArrayList<>();
    private final List<Part> riff = new ArrayList<>();
    private Map<TextField, String> texts = Map.of();

    FlacReader(Path path) { this.path = path; }

    private record Part(String id, ChunkReader open) implements RiffMetadata.Part {}

    SoundFile read() throws IOException, FormatException {
        StreamInfo info;
        long audioAt, fileBytes;
        try (FileBytes file = new FileBytes(path)) {
            fileBytes = file.size();
            info = blocks(file);
            audioAt = chunks.getLast().end();
        }
        List<FlacAudio.Mark> marks = new ArrayList<>();
        Losses losses = new Losses(info.rateHz());
        long end = 0, nextMark = 0;
        try (FlacFrames frames = new FlacFrames(path, info, audioAt)) {
            for (Optional<FlacFrames.Found> found; (found = frames.next()).isPresent();) {
                FlacFrame frame = found.get().header();
                if (info.frames() > 0 && frame.first() >= info.frames() || frame.first() > end + 600L * info.rateHz() && info.frames() == 0) continue;
                losses.add(end, frame.first());
                if (marks.isEmpty() || frame.first() >= nextMark) {
                    // What lies before the first whole frame is silent.
                    marks.add(new FlacAudio.Mark(marks.isEmpty() ? 0 : frame.first(), found.get().at()));
                    nextMark = frame.first() + (long) SECONDS_PER_MARK * info.rateHz();
                }
                end = Math.max(end, frame.first() + frame.count());
            }
            if (marks.isEmpty()) throw new FormatException("no frame of audio in the file is whole", "", "It is damaged; get it again.");
            if (info.frames() > end) problems.add(Losses.cut(end, info.frames(), info.rateHz()));
            problems.addAll(losses.problems(0, end));
        }
        SampleEncoding encoding = new SampleEncoding(SampleEncoding.Kind.SIGNED, Math.ceilDiv(info.bits(), 8), info.bits(), ByteOrder.LITTLE_ENDIAN);
        SoundMetadata metadata = RiffMetadata.read(riff, end, problems);
        Map<TextField, String> all = new EnumMap<>(TextField.class);
        all.putAll(metadata.texts());
        all.putAll(texts);
        Compression compression = Compression.lossless((fileBytes - audioAt) * 8 * info.rateHz() / Math.max(1, end));
        return new SoundFile(path, fileBytes, FlacFormat.ID, "FLAC", "FLAC", encoding, info.rateHz(), info.channels(), end,
                new AudioPlace.Coded(compression, new FlacAudio(info, marks)), metadata.withTexts(all), chunks, problems);
    }

    /// Blocks before the audio: a byte of kind, its highest bit on the last, and 24 bits of length.
    private StreamInfo blocks(FileBytes file) throws IOException, FormatException {
        StreamInfo info = null;
        long at = 4;
        for (boolean isLast = false; !isLast;) {
            byte[] head = file.read(at, 4);
            if (head.length < 4) throw new FormatException("the file ends within its header", "", "It is incomplete; get it again.");
            isLast = head[0] < 0;
            int kind = head[0] & 127, bytes = (head[1] & 0xFF) << 16 | (head[2] & 0xFF) << 8 | head[3] & 0xFF;
            long from = at + 4;
            String name = switch (kind) {
                case STREAMINFO -> "STREAMINFO";
                case APPLICATION -> "APPLICATION";
                case COMMENT -> "VORBIS_COMMENT";
                case PICTURE -> "PICTURE";
                case 1 -> "PADDING";
                case 3 -> "SEEKTABLE";
                case 5 -> "CUESHEET";
                default -> "block " + kind;
            };
            if (kind == STREAMINFO && info == null) info = StreamInfo.read(reader(file, name, from, bytes, ByteOrder.BIG_ENDIAN));
            if (kind == COMMENT) texts = VorbisComments.read(reader(file, name, from, bytes, ByteOrder.LITTLE_ENDIAN));
            ChunkInfo block = new ChunkInfo(name, from, Math.min(bytes, MAX_BLOCK));
            chunks.add(kind == APPLICATION ? application(file, block) : block);
            at = from + bytes;
        }
        if (info == null) throw new FormatException("the file has no STREAMINFO block, which says how the audio is coded", "", "It is damaged; get it again.");
        return info;
    }

    /// Blocks of id `riff` hold a chunk each of the WAV that the file was made of (common practice).
    private ChunkInfo application(FileBytes file, ChunkInfo block) throws IOException {
        byte[] head = file.read(block.at(), 12);
        if (head.length < 12 || !new String(head, 0, 4, StandardCharsets.ISO_8859_1).equals("riff")) return block;
        String id = new String(head, 4, 4, StandardCharsets.ISO_8859_1);
        long size = Math.min(block.bytes() - 12, (head[8] & 0xFF) | (head[9] & 0xFF) << 8 | (head[10] & 0xFF) << 16 | (head[11] & 0xFFL) << 24);
        if (!RiffMetadata.IDS.contains(id)) return block;
        riff.add(new Part(id, reader(file, id, block.at() + 12, size, ByteOrder.LITTLE_ENDIAN)));
        return new ChunkInfo(id, block.at() + 12, size);
    }

    private static ChunkReader reader(FileBytes file, String name, long at, long bytes, ByteOrder order) throws IOException {
        return new ChunkReader(name, at, file.read(at, (int) Math.min(bytes, MAX_CONTENTS)), order);
    }
}
