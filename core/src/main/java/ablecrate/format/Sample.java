package ablecrate.format;

import ablecrate.codec.SoundFile;

/// A sound that zones refer to.
public sealed interface Sample {
    /// As the file that names it has it.
    String name();

    /// It is there.
    record Found(String name, SoundFile file) implements Sample {}

    /// It is not, or cannot be used.
    /// @param reason in words
    record Missing(String name, String reason) implements Sample {}
}
