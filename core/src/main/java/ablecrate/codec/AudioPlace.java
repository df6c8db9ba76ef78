package ablecrate.codec;

import ablecrate.audio.DecodedSource;
import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.PcmFileSource;
import ablecrate.audio.PooledSource;
import ablecrate.audio.SeekableSource;
import ablecrate.instrument.Loop;
import java.io.IOException;
import java.util.List;
import java.util.function.LongConsumer;

/// Where a sound's samples lie in its file.
public sealed interface AudioPlace {
    /// Opens the audio.
    /// @param file whose audio this is
    /// @param lost told of the frames that could not be decoded, as they are read
    SeekableSource open(SoundFile file, LongConsumer lost) throws IOException;

    /// Whether each frame is the same, bit for bit, wherever reading begins.
    default boolean isSameFromAnywhere() { return true; }

    /// What tells the sound from others of the same file; empty where it is all of it.
    default String within() { return ""; }

    /// Loops of the right side where they are not those of the left, which stand for the sound; empty where they are the same.
    default List<Loop> rightLoops() { return List.of(); }

    /// All channels in turn.
    /// @param at where frame 0 lies
    record Interleaved(long at) implements AudioPlace {
        @Override public SeekableSource open(SoundFile file, LongConsumer lost) throws IOException {
            return new PcmFileSource(file.path(), file.encoding(), file.rateHz(), file.channels(), at, file.frames());
        }
    }

    /// In two mono files, left and right.
    record Sides(SoundFile left, SoundFile right) implements AudioPlace {
        @Override public SeekableSource open(SoundFile file, LongConsumer lost) throws IOException { return new SidesSource(left, right, lost); }

        @Override public boolean isSameFromAnywhere() { return left.audio().isSameFromAnywhere() && right.audio().isSameFromAnywhere(); }

        @Override public List<Loop> rightLoops() {
            List<Loop> loops = right.metadata().loops();
            return loops.equals(left.metadata().loops()) ? List.of() : loops;
        }
    }

    /// A piece of another sound, clickless at both ends.
    /// @param fadeInFrames,fadeOutFrames of a raised cosine at its ends; 0 for none
    record Slice(SoundFile whole, FrameRange frames, int fadeInFrames, int fadeOutFrames) implements AudioPlace {
        @Override public SeekableSource open(SoundFile file, LongConsumer lost) throws IOException {
            return new SliceSource(whole.open(f -> lost.accept(f - frames.start())), frames, fadeInFrames, fadeOutFrames);
        }

        @Override public boolean isSameFromAnywhere() { return whole.audio().isSameFromAnywhere(); }

        @Override public String within() { return frames.start() + "-" + frames.end() + " " + fadeInFrames + " " + fadeOutFrames; }
    }

    /// Another sound with silence in front of it.
    record Delayed(SoundFile whole, long silence) implements AudioPlace {
        @Override public SeekableSource open(SoundFile file, LongConsumer lost) throws IOException {
            return new DelayedSource(whole.open(f -> lost.accept(f + silence)), silence);
        }

        @Override public boolean isSameFromAnywhere() { return whole.audio().isSameFromAnywhere(); }

        @Override public String within() { return "after " + silence; }
    }

    /// Other sounds, one after another; what lies between them is silent.
    record Joined(List<Piece> pieces) implements AudioPlace {
        /// @param at frame that it starts with
        public record Piece(SoundFile file, long at, long frames, Rendering rendering) {}

        /// How a piece is made like the others. Its text tells all that decides about it.
        public interface Rendering {
            /// @param lost told once for each of the piece's frames that could not be decoded
            FrameSource openAt(long frame, LongConsumer lost) throws IOException;
        }

        public Joined {
            pieces = List.copyOf(pieces);
        }

        @Override public SeekableSource open(SoundFile file, LongConsumer lost) throws IOException { return new JoinedSource(this, file, lost); }

        /// Its pieces are made ahead as it is.
        @Override public boolean isSameFromAnywhere() { return false; }

        @Override public String within() { return "joined"; }
    }

    /// In a bank's pool, each channel by itself.
    record Pooled(List<PooledSource.Place> channels, List<Loop> rightLoops) implements AudioPlace {
        public Pooled {
            channels = List.copyOf(channels);
            rightLoops = List.copyOf(rightLoops);
        }

        @Override public SeekableSource open(SoundFile file, LongConsumer lost) throws IOException {
            return new PooledSource(file.path(), file.rateHz(), channels);
        }

        @Override public String within() { return channels.toString(); }
    }

    /// Compressed.
    record Coded(Compression compression, CodedAudio stream) implements AudioPlace {
        @Override public boolean isSameFromAnywhere() { return stream.isSameFromAnywhere(); }

        @Override public SeekableSource open(SoundFile file, LongConsumer lost) throws IOException {
            return new DecodedSource(stream.open(file.path()), file.channels(), file.rateHz(), compression.start().delayFrames(), file.frames(), lost);
        }
    }
}
