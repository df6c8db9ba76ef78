package ablecrate.demo;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameSource;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.dsp.RateConverters;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.session.SessionDocument;
import ablecrate.session.SessionDocument.Clip;
import ablecrate.session.SessionDocument.Marker;
import ablecrate.session.SessionDocument.SoundRef;
import ablecrate.session.SessionDocument.Track;
import ablecrate.session.Sessions;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Optional;

/// The overture as a recording session that has been through several machines: one stem is offline, one linked from outside, two are compressed, one is at
/// another rate.
public final class DemoSession {
    /// The folder that is made, beside the crate.
    public static final String NAME = "The Overture";
    private static final int RATE = 48_000, BEATS = 3;
    private static final double BPM = 96;

    private DemoSession() {}

    /// Writes the session, unless it is there.
    /// @param crate that [DemoCrate] made; the offline stem lies there
    /// @return its folder
    public static Path make(Path crate) throws IOException {
        Path folder = crate.resolveSibling(NAME), audio = folder.resolve("audio"), stems = crate.resolve("Overture Stems"),
                mailed = crate.resolve("Overture, as mailed");
        if (Files.exists(folder.resolve(SessionDocument.NAME))) return folder;
        Files.createDirectories(audio);
        Files.copy(mailed.resolve("overture bottles.m4a"), audio.resolve("overture bottles.m4a"), StandardCopyOption.REPLACE_EXISTING);
        Files.copy(mailed.resolve("overture harp.flac"), audio.resolve("overture harp, far.flac"), StandardCopyOption.REPLACE_EXISTING);
        Files.copy(stems.resolve("overture glass.wav"), audio.resolve("overture glass.wav"), StandardCopyOption.REPLACE_EXISTING);
        converted(stems.resolve("overture harp.wav"), audio.resolve("overture harp.wav"));
        SessionDocument empty = SessionDocument.of(RATE, Depth.INT_24, BPM, BEATS, 4);
        long bar = Math.round(empty.bars().frame(2));
        String wind = crate.resolve("Rhythms/windmill 96 bpm.wav").toAbsolutePath().normalize().toString(), bottles = "audio/overture bottles.m4a",
                glass = "audio/overture glass.wav", harp = "audio/overture harp.wav", far = "audio/overture harp, far.flac",
                kitchen = "audio/overture kitchen.wav";
        long length = 5 * bar;
        List<Track> tracks = List.of(new Track("Harp", 0, 0, false, List.of(clip(harp, 0, 0, length, 0, 0))),
                new Track("Harp, far", -9, 40, false, List.of(clip(far, bar / 96, 0, length, 0, 0))),
                new Track("Glass", -3, -30, false, List.of(clip(glass, bar, 41_344, 2 * bar, 4800, 0), clip(glass, 3 * bar, 124_031, 2 * bar, 0, 24_000))),
                new Track("Bottles", 0, 0, false, List.of(clip(bottles, 0, 0, length, 0, 0))),
                new Track("Kitchen", -2, 0, false, List.of(clip(kitchen, 0, 0, 3 * bar, 0, 0))),
                new Track("Windmill", -12, 0, false, List.of(clip(wind, bar, 0, 3 * bar, 48_000, 48_000))));
        Sessions.write(
                empty.with(List.of(ref(harp), ref(far), ref(glass), ref(bottles), new SoundRef(kitchen, Optional.of(485_100L), Optional.empty()), ref(wind)),
                        tracks).marked(List.of(new Marker("Dawn", 0), new Marker("The gate opens", 2 * bar))),
                folder);
        return folder;
    }

    private static SoundRef ref(String path) { return new SoundRef(path, Optional.empty(), Optional.empty()); }

    private static Clip clip(String file, long start, long offset, long length, long in, long out) {
        return new Clip(file, start, 0, offset, length, 0, 0, in, out, false);
    }

    /// At the session's rate and depth.
    private static void converted(Path from, Path to) throws IOException {
        SoundFile file = Gatherer.readAll(Gatherer.find(List.of(from), () -> false)).getFirst().sound().orElseThrow();
        try (FrameSource source = new RateConverters().convert(file.open(), RATE)) {
            double[][] planes = new double[source.channels()][(int) source.frames()];
            source.readFully(planes, 0, planes[0].length);
            WholeSound.write(to, SoundFormats.written("wav").orElseThrow(), RATE, Depth.INT_24, SoundMetadata.NONE, List.of(), planes);
        }
    }
}
