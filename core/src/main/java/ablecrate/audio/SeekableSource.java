package ablecrate.audio;

import java.io.IOException;

/// A stream that can go to any of its frames.
public interface SeekableSource extends FrameSource {
    /// The next read starts at this frame, 0…frames.
    void seek(long frame) throws IOException;
}
