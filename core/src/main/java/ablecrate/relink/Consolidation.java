package ablecrate.relink;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameSource;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.SoundSink;
import ablecrate.codec.WrittenFormat;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NameRules;
import ablecrate.instrument.SoundMetadata;
import ablecrate.json.Json;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.option.TrackStart;
import ablecrate.pack.Cards;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.session.SessionDocument;
import ablecrate.session.Sessions;
import ablecrate.signal.Measurements;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BooleanSupplier;

/// A session with one file a track, from bar 1 to the end, made of another: what can be opened anywhere.
///
/// Tracks are mixed to files of 64 bit float first; from there on they go the way of all sounds, and are verified as such.
public final class Consolidation {
    private static final int BLOCK = 1 << 16;

    private Consolidation() {}

    /// @param check of a session that is whole
    /// @param mixes an empty folder for the mixes, which may go once the list was packed
    /// @param into the new session's folder; its document is written, without files
    /// @return what to pack into it
    public static PackingList of(SessionCheck check, Path mixes, Path into, DestinationSheet sheet, Measurements book, BooleanSupplier stopped)
            throws IOException, Json.JsonFault, OptionConflict {
        if (!check.isWhole()) throw new OptionConflict(check.folder() + " is not whole; 'ablecrate session repair' makes it so");
        if (Files.exists(into.resolve(SessionDocument.NAME))) throw new OptionConflict(into + " holds a session already; choose another folder");
        SessionDocument document = check.document();
        Map<String, SoundFile> files = new HashMap<>();
        check.files().forEach(f -> f.sound().ifPresent(s -> files.put(f.path(), s)));
        NameRules rules = new NameRules(sheet.names());
        NameRules.Taken taken = new NameRules.Taken();
        List<Path> written = new ArrayList<>();
        for (SessionDocument.Track track : document.tracks())
            if (!track.clips().isEmpty() && !stopped.getAsBoolean()) {
                Path mix = mixes.resolve(rules.unique(rules.fit(track.name()), "", taken) + ".wav");
                write(new TrackMix(track, files, document.rateHz(), document.endFrame()), mix);
                written.add(mix);
            }
        Files.createDirectories(into);
        Sessions.write(document.without(), into);
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(written, stopped), stopped);
        PackOptions options = PackOptions.DEFAULT.withSession(PackOptions.DEFAULT.session().withTracks(TrackStart.at(1)));
        return ListeningPlanner.plan(gathered, sheet, options, Map.of(), book, Cards.of(into, sheet), stopped, (_, _) -> {});
    }

    private static void write(TrackMix mix, Path file) throws IOException {
        WrittenFormat wav = SoundFormats.written("wav").orElseThrow();
        OutputShape shape = new OutputShape(mix.rateHz(), mix.channels(), Depth.FLOAT_64, mix.frames());
        double[][] block = new double[mix.channels()][BLOCK];
        try (FrameSource source = mix;
                OutputStream out = new BufferedOutputStream(Files.newOutputStream(file));
                SoundSink sink = wav.sink(shape, SoundMetadata.NONE, List.of(), out, file.resolveSibling(file.getFileName() + ".spool"))) {
            for (int got; (got = source.read(block, 0, BLOCK)) > 0;)
                sink.write(block, got);
            sink.finish();
        }
    }
}
