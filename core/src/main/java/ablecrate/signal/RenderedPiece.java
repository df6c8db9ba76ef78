package ablecrate.signal;

import ablecrate.audio.FrameSource;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.SoundFile;
import java.io.IOException;
import java.util.function.LongConsumer;

/// A sound as it is planned, as a piece of a longer one.
public final class RenderedPiece implements AudioPlace.Joined.Rendering {
    private final SoundPath path;
    private final SoundFile file;
    private final SourceChain sourceChain;
    private final OutputChain outputChain;

    public RenderedPiece(SoundPath path, SoundFile file, SourceChain sourceChain, OutputChain outputChain) {
        this.path = path;
        this.file = file;
        this.sourceChain = sourceChain;
        this.outputChain = outputChain;
    }

    @Override public FrameSource openAt(long frame, LongConsumer lost) throws IOException {
        return frame == 0 ? path.open(file, sourceChain, outputChain, lost) : path.openAt(file, sourceChain, outputChain, frame);
    }

    @Override public String toString() { return sourceChain + " " + outputChain; }
}
