package ablecrate.library;

import ablecrate.audio.FrameRange;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.SoundFile;
import ablecrate.format.InstrumentFile;
import ablecrate.format.Sample;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/// One file of a gathering.
/// @param path where it lies
/// @param relative the same seen from beside the folder that was named: its first part is that folder
public record Gathered(Path path, Path relative, Content content) {
    /// What is known of a file.
    public sealed interface Content {
        /// Its headers were read.
        record Sound(SoundFile file) implements Content {}

        /// Instruments, read without their audio.
        record Instruments(InstrumentFile file) implements Content {}

        /// It only points at sounds.
        record Links(Playlist list) implements Content {}

        /// It is something else, or nothing of it can be used.
        /// @param id for programs: `playlist`, `midi`, `damaged`…
        record Refused(String id, String name, String reason) implements Content {}

        /// Not looked at yet.
        record Unread() implements Content {}
    }

    Gathered with(Content other) { return new Gathered(path, relative, other); }

    public Optional<SoundFile> sound() { return content instanceof Content.Sound(SoundFile file) ? Optional.of(file) : Optional.empty(); }

    public Optional<InstrumentFile> instruments() { return content instanceof Content.Instruments(InstrumentFile file) ? Optional.of(file) : Optional.empty(); }

    /// A piece that is cut from a clip.
    /// @param frames of the clip
    /// @param place in the clip that it was cut for, behind the pre-roll
    public record Piece(String name, FrameRange frames, long place) {}

    /// The sound that is looked at and heard as a whole: the file's, also where it is planned to be cut into pieces.
    public Optional<SoundFile> clip() {
        return sound().or(() -> cut().map(Sample.Found::file).map(f -> ((AudioPlace.Slice) f.audio()).whole()).findFirst());
    }

    /// Into which a clip is cut; empty for all else.
    public List<Piece> pieces() { return cut().map(s -> piece(s.name(), (AudioPlace.Slice) s.file().audio())).toList(); }

    private static Piece piece(String name, AudioPlace.Slice slice) { return new Piece(name, slice.frames(), slice.frames().start() + slice.fadeInFrames()); }

    private Stream<Sample.Found> cut() {
        return instruments().stream().flatMap(f -> f.samples().stream()).filter(Sample.Found.class::isInstance).map(Sample.Found.class::cast)
                .filter(s -> s.file().audio() instanceof AudioPlace.Slice);
    }

    /// Whether it is a folder whose sounds are one line.
    public boolean isFolder() {
        return instruments().stream().flatMap(f -> f.samples().stream()).filter(Sample.Found.class::isInstance).map(s -> ((Sample.Found) s).file().path())
                .anyMatch(sound -> sound.startsWith(path) && !sound.equals(path));
    }

    /// The name of the folder it lies in.
    public String folderName() {
        Path parent = relative.getParent() == null ? path.toAbsolutePath().normalize().getParent() : relative.getParent();
        return parent == null || parent.getFileName() == null ? "" : parent.getFileName().toString();
    }

    public String fileName() { return path.getFileName().toString(); }

    /// The name without its extension.
    public String stem() {
        String name = fileName();
        int dot = name.lastIndexOf('.');
        return dot <= 0 ? name : name.substring(0, dot);
    }
}
