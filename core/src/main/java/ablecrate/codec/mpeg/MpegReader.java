package ablecrate.codec.mpeg;

import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.Compression;
import ablecrate.codec.FormatException;
import ablecrate.codec.Gapless;
import ablecrate.codec.Losses;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.codec.tags.Id3;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// Reads the tags of an MP3 file and looks through its frames.
final class MpegReader {
    /// What decoders of layer III put before all: 528 frames of their filters and one more (common practice).
    private static final int DECODER_DELAY = 529;
    private static final int LIKELY_ENCODER_DELAY = 576, LAYER_II_DELAY = 481, MARK_SECONDS = 10, MAX_TAG = 16 << 20, LONGEST_SEARCH = 1 << 20;

    private final Path path;
    private final List<Problem> problems = new ArrayList<>();
    private final List<ChunkInfo> chunks = new ArrayList<>();
    private final Map<TextField, String> texts = new EnumMap<>(TextField.class);
    private Optional<Gapless> comment = Optional.empty();

    MpegReader(Path path) { this.path = path; }

    SoundFile read() throws IOException, FormatException {
        long from = 0, end, fileBytes;
        try (FileBytes file = new FileBytes(path)) {
            fileBytes = file.size();
            for (int length; (length = Id3.length(file.read(from, Id3.HEADER_BYTES))) > 0; from += length) {
                Id3.Tag tag = Id3.read(file.read(from, Math.min(length, MAX_TAG)));
                tag.texts().forEach(texts::putIfAbsent);
                comment = comment.or(tag::gapless);
                chunks.add(new ChunkInfo("ID3v2", from, Math.min(length, fileBytes - from)));
            }
            end = fileBytes;
            if (end - from > Id3.V1_BYTES) {
                Map<TextField, String> old = Id3.readV1(file.read(end - Id3.V1_BYTES, Id3.V1_BYTES));
                if (!old.isEmpty()) end -= Id3.V1_BYTES;
                old.forEach(texts::putIfAbsent);
            }
        }
        return frames(from, end, fileBytes);
    }

    /// Frames that follow each other, then a stretch without; the last may be one without sound behind.
    private record Run(long frames, long passedOver) {}

    private SoundFile frames(long from, long end, long fileBytes) throws IOException, FormatException {
        MpegFrames.Found first;
        try (MpegFrames frames = new MpegFrames(path, from, Math.min(end, from + LONGEST_SEARCH), Optional.empty())) {
            Optional<MpegFrames.Found> found = frames.next();
            if (found.isEmpty()) throw noFrame(from, end);
            first = found.get();
        }
        MpegHeader kind = first.header();
        Optional<InfoTag> info;
        List<MpegAudio.Mark> marks = new ArrayList<>();
        List<Run> gaps = new ArrayList<>();
        long count = 0, audioBytes = 0, nextMark = 0, markFrames = (long) MARK_SECONDS * kind.rateHz() / kind.frames(), last = first.at();
        try (MpegFrames frames = new MpegFrames(path, first.at(), end, Optional.of(kind))) {
            MpegFrames.Found head = frames.next().orElse(first);
            info = InfoTag.read(head.header(), frames.bytes(head));
            if (info.isEmpty()) frames.moveTo(head.at());
            for (Optional<MpegFrames.Found> found; (found = frames.next()).isPresent();) {
                MpegFrames.Found frame = found.get();
                if (frame.passedOver() > 0 && count > 0) gaps.add(new Run(count, frame.passedOver()));
                if (count >= nextMark) {
                    marks.add(new MpegAudio.Mark(count, frame.at()));
                    nextMark = count + markFrames;
                }
                count++;
                audioBytes += frame.header().bytes();
                last = frame.at() + frame.header().bytes();
            }
        }
        if (count == 0) throw noFrame(from, end);
        long promised = info.map(InfoTag::frames).orElse(-1L), unread = end - last;
        List<MpegAudio.Gap> missing = gaps(gaps, promised < 0 ? -1 : promised - count, (double) audioBytes / count);
        long filled = missing.stream().mapToLong(MpegAudio.Gap::frames).sum(), all = count + filled;
        boolean isCut = promised > all || promised < 0 && unread >= MpegHeader.BYTES && unread < 2 * audioBytes / count;
        Compression.Start start = start(kind, info);
        long delay = start.delayFrames(), frames = all * kind.frames() - delay;
        // At the end of a file that is cut there is nothing to take off.
        if (!isCut || promised < 0) frames = end(kind, info, frames);
        if (frames <= 0) throw new FormatException("all the frames of the file are the encoder's delay", "", "It is incomplete; get it again.");
        if (isCut && promised > all) problems.add(Losses.cut(frames, (promised - all) * kind.frames() + frames, kind.rateHz()));
        if (isCut && promised < 0) problems.add(Problem.lost("the last frame is cut off", String.format(Locale.ROOT, "byte %,d", last)));
        Losses losses = new Losses(kind.rateHz());
        missing.forEach(g -> losses.add(g.before() * kind.frames(), (g.before() + g.frames()) * kind.frames()));
        problems.addAll(losses.problems(delay, frames));
        if (gaps.stream().anyMatch(g -> g.passedOver() > 0) && filled == 0)
            problems.add(Problem.lost(gaps.size() + " stretches of the file are no audio and are passed over", ""));
        Compression compression = new Compression(true, Math.round(8.0 * audioBytes / count * kind.rateHz() / kind.frames()), start);
        SampleEncoding encoding = new SampleEncoding(SampleEncoding.Kind.FLOAT, 4, 32, ByteOrder.LITTLE_ENDIAN);
        return new SoundFile(path, fileBytes, Mp3Format.ID, kind.layer() == 3 ? "MP3" : "MPEG audio", kind.codec(), encoding, kind.rateHz(), kind.channels(),
                frames,
                new AudioPlace.Coded(compression, new MpegAudio(kind, end, missing, shifted(marks, missing))), SoundMetadata.NONE.withTexts(texts), chunks,
                problems);
    }

    /// Numbers of frames with those counted that are missing before.
    private static List<MpegAudio.Mark> shifted(List<MpegAudio.Mark> marks, List<MpegAudio.Gap> gaps) {
        return marks.stream().map(m -> {
            long number = m.frame();
            for (MpegAudio.Gap gap : gaps)
                if (gap.before() <= number) number += gap.frames();
            return new MpegAudio.Mark(number, m.at());
        }).toList();
    }

    /// Where frames are missing. Their number is known if the file says how many there should be, otherwise their bytes tell.
    /// @param lost frames in all; negative if that is not known
    private static List<MpegAudio.Gap> gaps(List<Run> runs, long lost, double meanBytes) {
        List<MpegAudio.Gap> out = new ArrayList<>();
        long bytes = runs.stream().mapToLong(Run::passedOver).sum(), left = lost, filled = 0;
        for (int i = 0; i < runs.size(); i++) {
            Run run = runs.get(i);
            long frames = lost < 0
                    ? Math.round(run.passedOver() / meanBytes)
                    : i == runs.size() - 1 ? left : Math.round((double) lost * run.passedOver() / bytes);
            // More than fit into the bytes are missing for another reason: the end is cut off.
            frames = Math.min(frames, (long) Math.ceil(run.passedOver() / meanBytes) + 1);
            left -= frames;
            if (frames > 0) out.add(new MpegAudio.Gap(run.frames() + filled, frames));
            filled += Math.max(0, frames);
        }
        return out;
    }

    private Compression.Start start(MpegHeader kind, Optional<InfoTag> info) {
        if (kind.layer() != 3) return new Compression.Start.Unknown(LAYER_II_DELAY);
        if (info.isPresent() && info.get().delay() >= 0) return new Compression.Start.Told(info.get().delay() + DECODER_DELAY, "info frame");
        if (comment.isPresent()) return new Compression.Start.Told(comment.get().delayFrames() + DECODER_DELAY, "gapless comment");
        return new Compression.Start.Unknown(LIKELY_ENCODER_DELAY + DECODER_DELAY);
    }

    private long end(MpegHeader kind, Optional<InfoTag> info, long frames) {
        if (kind.layer() != 3) return frames;
        if (info.isPresent() && info.get().delay() >= 0) return Math.min(frames, frames + DECODER_DELAY - info.get().padding());
        return comment.map(c -> Math.min(frames, c.frames())).orElse(frames);
    }

    private FormatException noFrame(long from, long end) throws IOException {
        try (FileBytes file = new FileBytes(path)) {
            Optional<MpegHeader> header = header(file.read(from, MpegHeader.BYTES));
            if (header.filter(MpegHeader::isFreeFormat).isPresent())
                return new FormatException("MPEG audio of free format, whose bit rate is none of the table", String.format(Locale.ROOT, "byte %,d", from),
                        "Few programs can read it; bring it as WAV.");
        }
        return new FormatException(String.format(Locale.ROOT, "no two frames of MPEG audio follow each other in %,d bytes", end - from), "",
                "The file is damaged or no audio; get it again.");
    }

    private static Optional<MpegHeader> header(byte[] bytes) { return MpegHeader.read(bytes, 0, bytes.length); }
}
