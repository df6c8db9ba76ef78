package ablecrate.codec;

import ablecrate.audio.PooledSource;
import java.util.List;

/// Where a sound's samples lie in its file.
public sealed interface AudioPlace {
    /// All channels in turn.
    /// @param at where frame 0 lies
    record Interleaved(long at) implements AudioPlace {}

    /// In two mono files, left and right.
    record Sides(SoundFile left, SoundFile right) implements AudioPlace {}

    /// In a bank's pool, each channel by itself.
    record Pooled(List<PooledSource.Place> channels) implements AudioPlace {
        public Pooled {
            channels = List.copyOf(channels);
        }
    }

    /// Compressed.
    record Coded(Compression compression, CodedAudio stream) implements AudioPlace {}
}
