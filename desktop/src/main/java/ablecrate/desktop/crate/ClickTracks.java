package ablecrate.desktop.crate;

import ablecrate.audio.FrameSource;
import ablecrate.change.Told;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.detect.ClickTrack;
import ablecrate.disk.DiskFault;
import ablecrate.library.Gathered;
import ablecrate.library.Stems;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/// Finds click tracks and count-ins beside the stems of the job by their sound, and takes them out of it. FX thread only.
public final class ClickTracks {
    private final CrateModel crate;
    private final Background background;

    public ClickTracks(CrateModel crate, Background background) {
        this.crate = crate;
        this.background = background;
    }

    private record Found(Path path, ClickTrack clicks) {
        String told() { return String.format(Locale.ROOT, "%s (%s bpm)", path.getFileName(), Told.bpm(clicks.bpm())); }
    }

    /// Listens to all sounds of folders that hold stems.
    public void takeOut() {
        List<Gathered> gathered = crate.gathered();
        Set<Path> folders = Stems.in(gathered, _ -> true).values().stream().map(Stems::folder).collect(Collectors.toSet());
        List<SoundFile> beside = gathered.stream().filter(g -> folders.contains(g.path().getParent())).flatMap(g -> g.sound().stream()).toList();
        if (beside.isEmpty()) {
            crate.tell("no stems are gathered: three or more long sounds of a folder, with names that differ in words");
            return;
        }
        crate.tell("listening to " + Told.count(beside.size(), "sound") + " for clicks …");
        background.run(() -> found(beside), this::takeOut,
                e -> crate.fail(e instanceof IOException io ? DiskFault.text(io) : "a fault in Able Crate itself: " + e));
    }

    private static List<Found> found(List<SoundFile> sounds) throws IOException {
        List<Found> found = new ArrayList<>();
        for (SoundFile sound : sounds)
            try (FrameSource source = sound.open()) {
                ClickTrack.of(source).ifPresent(c -> found.add(new Found(sound.path(), c)));
            }
        return found;
    }

    private void takeOut(List<Found> found) {
        if (found.isEmpty()) {
            crate.tell("no click track is among the stems");
            return;
        }
        crate.remove(found.stream().map(Found::path).collect(Collectors.toSet()));
        crate.tell("taken out of the job, as nothing but clicks: " + Told.some(found.stream().map(Found::told).toList()) + "; Ctrl+Z brings back");
    }
}
