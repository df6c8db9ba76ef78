package ablecrate.cli;

import ablecrate.audio.FrameSource;
import ablecrate.option.LoopFinds;
import ablecrate.instrument.LoopMode;
import java.io.IOException;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.Compression;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.detect.ClickTrack;
import ablecrate.detect.FoundLoop;
import ablecrate.detect.LoopWish;
import ablecrate.detect.TempoDetector;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.Span;
import ablecrate.json.Json;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.library.Stated;
import ablecrate.library.Playlist;
import ablecrate.signal.Measurement;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "inspect", mixinStandardHelpOptions = true, description = "What each file is and holds.") final class InspectCommand
        implements
            Callable<Integer> {
    @Spec private CommandSpec spec;
    @Parameters(paramLabel = "PATH", arity = "1..*", description = "Files and folders.") private List<Path> paths;
    @Option(names = "--levels", description = "Listen to each file and measure its levels.") private boolean levels;
    @Option(names = "--onsets", description = "Listen for where something begins.") private boolean onsets;
    @Option(names = "--tempo", description = "Listen for the tempo.") private boolean tempo;
    @Option(names = "--ends", description = "Listen to both ends: what lies before the first attack, and whether they click.") private boolean ends;
    @Option(names = "--find-loops", description = "Look for places to loop, the best first.") private boolean findLoops;
    @Option(names = "--level-loops", description = "Let loops be raised up to their ends where the sound decays.") private boolean levelLoops;
    @Option(names = "--loop-way", paramLabel = "forward|alternating|either", description = "How loops go that are looked for; forward where nothing is said.") private LoopFinds.Way loopWay = LoopFinds.Way.FORWARD;
    @Option(names = "--json", description = "As JSON; the keys are stable.") private boolean json;

    /// The keys of the JSON output. Absent values are null; frames of a loop are half-open; `fineTuneCents` is what a player adds.
    record Entry(String path, String kind, String container, String codec, Integer rateHz, Integer bitDepth, String sampleFormat, Integer channels, Long frames,
            Double durationSeconds,
            List<LoopEntry> loops, Integer rootKey, Double fineTuneCents, Integer keyLow, Integer keyHigh, Integer velocityLow, Integer velocityHigh,
            Double gainDb, List<CueEntry> cues,
            Optional<Broadcast> broadcast, List<ChunkEntry> chunks, List<ProblemEntry> problems,
            @JsonInclude(JsonInclude.Include.NON_NULL) CompressionEntry compression, Map<String, String> texts, @JsonUnwrapped Levels levels,
            @JsonUnwrapped Found found,
            @JsonInclude(JsonInclude.Include.NON_NULL) List<InstrumentEntries.InstrumentEntry> instruments) {}

    /// What was asked for; the others are left out.
    /// @param clickTrackBpm of a track of clicks alone, with `--tempo`
    /// @param tempoConfidence 0…1
    /// @param tempoRivalBpm what it may go at as well, half and double aside; absent where nothing else is heard
    /// @param foundLoops the best first
    @JsonInclude(JsonInclude.Include.NON_NULL) record Found(List<Long> onsetFrames, Double tempoBpm, Double tempoConfidence, Double tempoRivalBpm,
            Double clickTrackBpm,
            EndsEntry ends,
            List<FoundLoopEntry> foundLoops) {}

    /// @param attackMs where the first attack is; absent where none is heard
    /// @param startStepDbfs,endStepDbfs how far the first and the last frame are from silence
    @JsonInclude(JsonInclude.Include.NON_ABSENT) record EndsEntry(Optional<Double> attackMs, double startStepDbfs, boolean startClicks,
            double endStepDbfs, boolean endClicks) {
        private static final double SILENT_DBFS = -200;

        static EndsEntry of(Measurement.Onsets begins, Measurement.Survey survey, int rateHz) {
            return new EndsEntry(begins.frames().stream().findFirst().map(f -> rounded(f * 1000.0 / rateHz)), dbfs(survey.startStep()), survey.startClicks(),
                    dbfs(survey.endStep()), survey.endClicks());
        }

        private static double dbfs(double step) { return rounded(Math.max(SILENT_DBFS, Decibels.ofFactor(step))); }

        private static double rounded(double x) { return Math.rint(x * 100) / 100; }

        private static String told(String which, double dbfs, boolean clicks) {
            return dbfs <= SILENT_DBFS
                    ? which + " at silence"
                    : String.format(Locale.ROOT, "%s %.0f dBFS from silence%s", which, dbfs, clicks ? ", a click" : "");
        }

        String told() {
            return attackMs.map(ms -> String.format(Locale.ROOT, "first attack after %.1f ms", ms)).orElse("no attack is heard") + "; "
                    + told("starts", startStepDbfs, startClicks) + "; " + told("ends", endStepDbfs, endClicks);
        }
    }

    /// @param riseDb by which the sound is raised within the loop; 0 for not at all
    /// @param fallDbPerSecond how fast the sound dies away by itself; 0 for not at all
    /// @param seamDb the step at the seam as played
    /// @param bump change across the seam over what the sound changes by itself
    /// @param passes whether neither that nor click, level and pitch are more than they may be
    record FoundLoopEntry(long startFrame, long endFrame, String mode, int crossfadeFrames, double riseDb, double fallDbPerSecond, double seamDb,
            double centsOff, double bump,
            boolean passes) {
        static FoundLoopEntry of(FoundLoop l) {
            return new FoundLoopEntry(l.frames().start(), l.frames().end(), l.mode().label(), l.crossfadeFrames(), rounded(l.riseDb()),
                    rounded(l.fallDbPerSecond()), rounded(l.stepDb()),
                    rounded(l.quality().centsOff()),
                    rounded(l.quality().bump()), l.quality().passes());
        }

        private static double rounded(double x) { return Math.rint(x * 1000) / 1000; }
    }

    /// @param delayFrames taken off the start; null where the file does not say it
    record CompressionEntry(boolean lossy, long bitsPerSecond, Long delayFrames, String delaySaidBy, Long likelyDelayFrames) {
        static CompressionEntry of(Compression c) {
            return switch (c.start()) {
                case Compression.Start.Told(long frames, String by) -> new CompressionEntry(c.isLossy(), c.bitsPerSecond(), frames, by, null);
                case Compression.Start.Unknown(long likely) -> new CompressionEntry(c.isLossy(), c.bitsPerSecond(), null, null, likely);
            };
        }
    }

    record LoopEntry(long startFrame, long endFrame, String mode, long playCount) {}

    record CueEntry(long frame, String label) {}

    record ChunkEntry(String id, long bytes) {}

    record ProblemEntry(String effect, String text, String place) {}

    @Override public Integer call() throws Exception {
        List<Gathered> items = Gatherer.readAll(Gatherer.find(Sources.of(paths).paths(), () -> false));
        List<Optional<Levels>> measured = levels ? listen(items) : Collections.nCopies(items.size(), Optional.empty());
        List<Found> found = onsets || tempo || ends || findLoops ? items.parallelStream().map(this::found).toList() : Collections.nCopies(items.size(), null);
        PrintWriter out = spec.commandLine().getOut();
        if (json) {
            out.print(Json.write(IntStream.range(0, items.size()).mapToObj(i -> entry(items.get(i), measured.get(i), found.get(i))).toList()));
            out.flush();
        } else
            for (int i = 0; i < items.size(); i++) {
                print(out, items.get(i));
                if (measured.get(i).isPresent()) print(out, measured.get(i).get());
                if (found.get(i) != null) print(out, found.get(i), items.get(i).sound().orElseThrow().rateHz());
            }
        return items.stream().allMatch(i -> i.sound().isPresent() || i.instruments().isPresent()) ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    private List<Optional<Levels>> listen(List<Gathered> items) {
        Measurements book = new Measurements(new SoundPath());
        return items.parallelStream().map(Gathered::sound)
                .map(sound -> sound.flatMap(file -> heard(book, new Measurement.OfFile(file, OptionalDouble.empty()), Measurement.Survey.class))
                        .map(s -> s.levels().rounded()))
                .toList();
    }

    /// What cannot be read to its end is told.
    private <T extends Measurement> Optional<T> heard(Measurements book, Measurement.Request request, Class<T> kind) {
        book.measure(request, () -> false);
        Measurement measured = book.find(request).orElseThrow();
        if (measured instanceof Measurement.Failed(String reason)) spec.commandLine().getErr().println(request.file().path() + ": " + reason);
        return Optional.of(measured).filter(kind::isInstance).map(kind::cast);
    }

    private Found found(Gathered item) {
        if (item.sound().isEmpty()) return null;
        SoundFile file = item.sound().get();
        Measurements book = new Measurements(new SoundPath());
        Optional<Measurement.Onsets> begins = onsets || tempo || ends
                ? heard(book, new Measurement.OfOnsets(file), Measurement.Onsets.class)
                : Optional.empty();
        Optional<Measurement.Loops> loops = findLoops
                ? heard(book, new Measurement.OfLoops(file, LoopWish.usual(file.rateHz()).levelled(levelLoops).in(loopWay.modes())), Measurement.Loops.class)
                : Optional.empty();
        Optional<Measurement.Survey> survey = ends
                ? heard(book, new Measurement.OfFile(file, OptionalDouble.empty()), Measurement.Survey.class)
                : Optional.empty();
        Optional<TempoDetector.Tempo> goes = begins.flatMap(Measurement.Onsets::tempo).filter(_ -> tempo);
        return new Found(begins.filter(_ -> onsets).map(Measurement.Onsets::frames).orElse(null), goes.map(t -> Math.rint(t.bpm() * 100) / 100).orElse(null),
                goes.map(t -> Math.rint(t.confidence() * 1000) / 1000).orElse(null),
                goes.map(TempoDetector.Tempo::rivalBpm).filter(bpm -> bpm > 0).map(bpm -> Math.rint(bpm * 100) / 100).orElse(null),
                tempo ? clicks(file).map(c -> Math.rint(c.bpm() * 100) / 100).orElse(null) : null,
                survey.flatMap(s -> begins.map(b -> EndsEntry.of(b, s, file.rateHz()))).orElse(null),
                loops.map(l -> l.loops().stream().map(FoundLoopEntry::of).toList()).orElse(null));
    }

    private static Optional<ClickTrack> clicks(SoundFile file) {
        try (FrameSource source = file.open()) {
            return ClickTrack.of(source);
        } catch (IOException e) {
            // That it cannot be read is told where its tempo is.
            return Optional.empty();
        }
    }

    private static void print(PrintWriter out, Found found, int rateHz) {
        if (found.onsetFrames() != null)
            out.println("  onsets: " + found.onsetFrames().size()
                    + found.onsetFrames().stream().limit(12).map(f -> String.format(Locale.ROOT, "%.3f", (double) f / rateHz))
                            .collect(Collectors.joining(", ", found.onsetFrames().isEmpty() ? "" : " at ", found.onsetFrames().size() > 12 ? " …" : ""))
                    + " s");
        if (found.tempoBpm() != null)
            out.printf(Locale.ROOT, "  tempo: %.2f bpm, confidence %.2f%s%n", found.tempoBpm(), found.tempoConfidence(),
                    found.tempoRivalBpm() == null ? "" : String.format(Locale.ROOT, "; next best %.2f bpm", found.tempoRivalBpm()));
        if (found.clickTrackBpm() != null) out.printf(Locale.ROOT, "  nothing but clicks, %.2f a minute%n", found.clickTrackBpm());
        if (found.ends() != null) out.println("  ends: " + found.ends().told());
        if (found.foundLoops() != null) {
            if (found.foundLoops().isEmpty()) out.println("  no place to loop was found");
            for (FoundLoopEntry l : found.foundLoops())
                out.printf(Locale.ROOT, "  found loop: %,d…%,d, %.3f s, %s%s, seam %.1f times what the sound changes, %.2f cents off%s%s%n",
                        l.startFrame(),
                        l.endFrame(), (double) (l.endFrame() - l.startFrame()) / rateHz,
                        l.mode().equals(LoopMode.FORWARD.label()) ? String.format(Locale.ROOT, "crossfade of %,d frames", l.crossfadeFrames()) : l.mode(),
                        l.riseDb() == 0 ? "" : String.format(Locale.ROOT, ", raised by %.1f dB up to its end", l.riseDb()), l.bump(), l.centsOff(),
                        l.fallDbPerSecond() == 0 ? "" : String.format(Locale.ROOT, "; the sound falls by %.1f dB a second", l.fallDbPerSecond()),
                        l.passes() ? "" : "; does not pass");
        }
    }

    private static void print(PrintWriter out, Levels levels) {
        List<String> told = new ArrayList<>();
        for (LevelMeasure measure : LevelMeasure.values())
            if (levels.by(measure).isPresent())
                told.add(String.format(Locale.ROOT, "%s %.2f %s", measure.label(), levels.by(measure).getAsDouble(), measure.unit()));
        if (levels.loudnessRangeLu().isPresent()) told.add(String.format(Locale.ROOT, "loudness range %.1f LU", levels.loudnessRangeLu().getAsDouble()));
        if (levels.rmsDbfs().isPresent()) told.add(String.format(Locale.ROOT, "RMS %.2f dBFS", levels.rmsDbfs().getAsDouble()));
        told.add(String.format(Locale.ROOT, "offset %.4f %%", levels.dcOffset() * 100));
        out.println(
                "  levels: " + String.join(", ", told) + (levels.isMomentaryPadded() ? " (shorter than 400 ms: momentary loudness padded with silence)" : ""));
    }

    private static Entry entry(Gathered item, Optional<Levels> levels, Found found) {
        return switch (item.content()) {
            case Gathered.Content.Sound(SoundFile file) -> entry(item, file, levels, found);
            case Gathered.Content.Refused(String id, String name, String reason) -> refused(item, id, name, reason);
            case Gathered.Content.Links(Playlist list) -> refused(item, "playlist", "Playlist", list.told());
            case Gathered.Content.Instruments(InstrumentFile file) -> InstrumentEntries.entry(file);
            case Gathered.Content.Unread() -> throw new IllegalStateException(item.path() + " was not read");
        };
    }

    private static Entry refused(Gathered item, String id, String name, String reason) {
        return new Entry(item.path().toString(), id, name, null, null, null, null, null, null, null, List.of(), null, null, null, null, null, null, null,
                List.of(), Optional.empty(), List.of(), List.of(new ProblemEntry("refused", reason, "")), null, null, null, null, null);
    }

    private static Entry entry(Gathered item, SoundFile file, Optional<Levels> levels, Found found) {
        Mapping mapping = file.metadata().mapping();
        List<LoopEntry> loops = file.metadata().loops().stream().map(l -> new LoopEntry(l.frames().start(), l.frames().end(), l.mode().label(), l.playCount()))
                .toList();
        List<CueEntry> cues = file.metadata().cues().stream().map(c -> new CueEntry(c.frame(), c.label().orElse(null))).toList();
        List<ChunkEntry> chunks = file.chunks().stream().map(c -> new ChunkEntry(c.id(), c.bytes())).toList();
        List<ProblemEntry> problems = file.problems().stream().map(p -> new ProblemEntry(p.effect().name().toLowerCase(Locale.ROOT), p.text(), p.place()))
                .toList();
        Map<String, String> texts = new TreeMap<>();
        file.metadata().texts().forEach((field, text) -> texts.put(field.label(), text));
        Double fineTune = mapping.rootKey().isPresent() ? Double.valueOf(Math.rint(mapping.fineTuneCents() * 1e6) / 1e6) : null;
        return new Entry(item.path().toString(), "sound", file.container(), file.codec(), file.rateHz(),
                file.isLossy() ? null : file.encoding().containerBits(),
                file.isLossy() ? null : sampleFormat(file.encoding()), file.channels(),
                file.frames(), file.durationSeconds(), loops, mapping.rootKey().orElse(null), fineTune, mapping.keys().map(Span::low).orElse(null),
                mapping.keys().map(Span::high).orElse(null), mapping.velocities().map(Span::low).orElse(null),
                mapping.velocities().map(Span::high).orElse(null),
                mapping.gainDb().orElse(null), cues, file.metadata().broadcast(), chunks, problems,
                file.compression().map(CompressionEntry::of).orElse(null), texts, levels.orElse(null), found, null);
    }

    private static String sampleFormat(SampleEncoding encoding) {
        return switch (encoding.kind()) {
            case SIGNED -> "integer";
            case UNSIGNED -> "unsigned integer";
            case FLOAT -> "float";
        };
    }

    private static void print(PrintWriter out, Gathered item) {
        switch (item.content()) {
            case Gathered.Content.Links(Playlist list) -> {
                out.println(item.path() + "\n  Playlist: " + list.told());
                list.there().forEach(p -> out.println("  + " + p));
                list.missing().forEach(p -> out.println("  - " + p));
                list.remote().forEach(p -> out.println("  - " + p));
            }
            case Gathered.Content.Refused(_, String name, String reason) -> out.println(item.path() + "\n  " + name + ": " + reason);
            case Gathered.Content.Instruments(InstrumentFile file) -> InstrumentEntries.print(out, file);
            case Gathered.Content.Unread() -> {}
            case Gathered.Content.Sound(SoundFile f) -> {
                out.println(item.path());
                out.printf(Locale.ROOT, "  %s, %s, %,d Hz, %s, %s, %,d frames (%.3f s)%n", f.container(), f.codec(), f.rateHz(), f.depthLabel(),
                        f.channels() == 1 ? "mono" : f.channels() == 2 ? "stereo" : f.channels() + " channels", f.frames(), f.durationSeconds());
                Stated.tempo(item)
                        .ifPresent(bpm -> out.printf(Locale.ROOT, "  said to go at %.2f bpm, %.2f bars of 4/4%n", bpm, Stated.bars(item).orElse(0.0)));
                f.compression().map(Compression::start).ifPresent(start -> out.println(switch (start) {
                    case Compression.Start.Told(long frames, _) when frames == 0 -> "  starts on its first frame";
                    case Compression.Start.Told(long frames, String by) ->
                        String.format(Locale.ROOT, "  starts on its first frame: %,d frames of delay are taken off, by its %s", frames, by);
                    case Compression.Start.Unknown(long likely) ->
                        String.format(Locale.ROOT, "  ! it does not say where its sound starts: likely %,d frames (%.0f ms) late", likely,
                                likely * 1000.0 / f.rateHz());
                }));
                for (Loop l : f.metadata().loops())
                    out.printf(Locale.ROOT, "  loop %,d … %,d (end not played), %s, %s%n", l.frames().start(), l.frames().end(), l.mode().label(),
                            l.playCount() == 0
                                    ? "endless"
                                    : l.playCount()
                                            + " times");
                Mapping m = f.metadata().mapping();
                if (m.rootKey().isPresent()) out.printf(Locale.ROOT, "  root key %d, fine tuning %+.2f cents%n", m.rootKey().get(), m.fineTuneCents());
                m.keys().ifPresent(k -> out.printf(Locale.ROOT, "  keys %d … %d%s%n", k.low(), k.high(),
                        m.velocities().map(v -> ", velocities " + v.low() + " … " + v.high()).orElse("")));
                List<String> cues = new ArrayList<>();
                for (Cue c : f.metadata().cues())
                    cues.add(String.format(Locale.ROOT, "%,d%s", c.frame(), c.label().map(l -> " " + l).orElse("")));
                if (!cues.isEmpty()) out.println("  cues: " + String.join("; ", cues));
                f.metadata().broadcast()
                        .ifPresent(b -> out.printf(Locale.ROOT, "  broadcast: %s, time stamp frame %,d%n", b.description(), b.timeReferenceFrames()));
                f.metadata().texts().forEach((field, text) -> out.println("  " + field.label() + ": " + text));
                if (!f.chunks().isEmpty()) out.println("  chunks: " + String.join(", ", f.chunks().stream().map(InspectCommand::chunk).toList()));
                for (Problem p : f.problems())
                    out.println("  ! " + (p.place().isEmpty() ? "" : p.place() + ": ") + p.text());
            }
        }
    }

    private static String chunk(ChunkInfo c) { return String.format(Locale.ROOT, "'%s' %,d", c.id(), c.bytes()); }
}
