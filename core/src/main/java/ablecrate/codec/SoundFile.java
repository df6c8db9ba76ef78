package ablecrate.codec;

import ablecrate.audio.FiniteSource;
import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.PiecedSource;
import ablecrate.audio.SampleEncoding;
import ablecrate.audio.SeekableSource;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.LongConsumer;

/// One sound file as its headers describe it; no audio is held.
/// @param formatId which of [SoundFormats] reads it
/// @param container the flavour of the container, for people: `WAV extensible`, `RF64`
/// @param codec how samples are coded, for people
/// @param frames frames that are really there, whatever the header claims
/// @param chunks all chunks in the order of the file, known or not
public record SoundFile(Path path, long fileBytes, String formatId, String container, String codec, SampleEncoding encoding,
        int rateHz, int channels, long frames, AudioPlace audio, SoundMetadata metadata, List<ChunkInfo> chunks, List<Problem> problems) {
    public SoundFile {
        chunks = List.copyOf(chunks);
        problems = List.copyOf(problems);
    }

    /// Tells sounds apart; a bank and a clip in pieces hold several.
    /// @param within empty where it is all of a file
    public record Id(Path path, String within) {
        public boolean isWholeFile() { return within.isEmpty(); }
    }

    public Id id() { return new Id(path, audio.within()); }

    /// Whether it is made of others, and is no file by itself.
    public boolean isJoined() { return audio instanceof AudioPlace.Joined; }

    /// All sounds of files that it is made of; itself where it is one.
    public List<SoundFile> files() {
        return switch (audio) {
            case AudioPlace.Sides(SoundFile left, SoundFile right) -> List.of(left, right);
            case AudioPlace.Slice(SoundFile whole, _, _, _) -> whole.files();
            case AudioPlace.Delayed(SoundFile whole, _) -> whole.files();
            case AudioPlace.Joined(List<AudioPlace.Joined.Piece> pieces) -> pieces.stream().flatMap(p -> p.file().files().stream()).toList();
            default -> List.of(this);
        };
    }

    /// Opens the audio. All samples are numbers, see [FiniteSource].
    public SeekableSource open() throws IOException { return open(_ -> {}); }

    /// @param bad told of the frames whose samples are no numbers, or that could not be decoded, as they are read
    public SeekableSource open(LongConsumer bad) throws IOException {
        SeekableSource source = audio.open(this, bad);
        return encoding.isFloat() ? new FiniteSource(source, bad) : source;
    }

    /// Whether each frame is the same, bit for bit, wherever reading begins.
    public boolean isSameFromAnywhere() { return audio.isSameFromAnywhere(); }

    /// Opens the audio to read through it once. What is compressed is decoded by all workers who have nothing else to do.
    public FrameSource openThrough() throws IOException {
        if (compression().isEmpty() || !isSameFromAnywhere()) return open();
        return new PiecedSource(channels, rateHz, frames, 1, frame -> {
            SeekableSource from = open();
            from.seek(frame);
            return from;
        });
    }

    /// What is known of its compression; empty for plain samples.
    public Optional<Compression> compression() {
        return switch (audio) {
            case AudioPlace.Coded(Compression c, _) -> Optional.of(c);
            case AudioPlace.Delayed(SoundFile whole, _) -> whole.compression();
            default -> Optional.empty();
        };
    }

    /// Whether it was coded with loss: then its samples have no bit depth of their own.
    public boolean isLossy() { return compression().filter(Compression::isLossy).isPresent(); }

    /// Its depth for people, or, where it was coded with loss, that and its bit rate: `24 bit`, `lossy, 192 kbit/s`.
    public String depthLabel() {
        return isLossy()
                ? String.format(Locale.ROOT, "lossy, %,d kbit/s", Math.round(compression().orElseThrow().bitsPerSecond() / 1000.0))
                : encoding.depth().label();
    }

    public SoundFile withMetadata(SoundMetadata other) {
        return new SoundFile(path, fileBytes, formatId, container, codec, encoding, rateHz, channels, frames, audio, other, chunks, problems);
    }

    /// A piece of it as a sound.
    /// @param said what it says of itself
    public SoundFile slice(FrameRange piece, SoundMetadata said) {
        return new SoundFile(path, fileBytes, formatId, container, codec, encoding, rateHz, channels, piece.length(), new AudioPlace.Slice(this, piece, 0, 0),
                said, List.of(), List.of());
    }

    public double durationSeconds() { return (double) frames / rateHz; }

    /// Whether packing has to write the file anew to put its structure in order.
    public boolean needsMending() { return problems.stream().anyMatch(p -> p.effect() == Problem.Effect.MEND || p.effect() == Problem.Effect.LOST); }

    public SoundFile withProblem(Problem problem) {
        List<Problem> more = new ArrayList<>(problems);
        more.add(problem);
        return new SoundFile(path, fileBytes, formatId, container, codec, encoding, rateHz, channels, frames, audio, metadata, chunks, more);
    }
}
