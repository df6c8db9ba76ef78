package ablecrate.cli;

import ablecrate.audio.Depth;
import ablecrate.change.Told;
import ablecrate.destination.SheetCatalogue;
import ablecrate.json.Json;
import ablecrate.library.Catalogue;
import ablecrate.option.OptionConflict;
import ablecrate.option.SessionOptions;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingList;
import ablecrate.relink.Consolidation;
import ablecrate.relink.FormerSession;
import ablecrate.relink.SessionCheck;
import ablecrate.relink.SessionRepair;
import ablecrate.relink.Trouble;
import ablecrate.session.SessionDocument;
import ablecrate.session.Sessions;
import ablecrate.session.TempoMap;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import ablecrate.standins.SessionHost;
import ablecrate.standins.SessionMix;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "session", mixinStandardHelpOptions = true, description = "Recording sessions: makes one, tells what of one is offline or at another rate, makes it whole.") final class SessionCommand
        implements
            Callable<Integer> {
    @Spec private CommandSpec spec;

    @Override public Integer call() { throw new ParameterException(spec.commandLine(), "which? new, check, repair, consolidate or schema"); }

    @Command(name = "new", mixinStandardHelpOptions = true, description = "Makes a session without files; the folder is made if it is not there.") int make(
            @Parameters(paramLabel = "DIR") Path folder,
            @Option(names = "--rate", paramLabel = "HZ", defaultValue = "48000", description = "Sample rate. Default: 48000.") int rateHz,
            @Option(names = "--depth", paramLabel = "16|24|32f", defaultValue = "24", description = "Bits of a sample. Default: 24.") String depth,
            @Option(names = "--tempo", paramLabel = "BPM", defaultValue = "120", description = "Beats a minute. Default: 120.") double bpm,
            @Option(names = "--meter", paramLabel = "BEATS/UNIT", defaultValue = "4/4", description = "Default: 4/4.") String meter) throws Exception {
        if (Files.exists(folder.resolve(SessionDocument.NAME))) throw new OptionConflict(folder + " holds a session already; choose another folder");
        SessionDocument made;
        try {
            TempoMap.Meter m = SessionOptions.meter(meter);
            Depth bits = Depth.byId(depth).orElseThrow(() -> new IllegalArgumentException("'" + depth + "' is no depth"));
            made = SessionDocument.of(rateHz, bits, bpm, m.beats(), m.unit());
        } catch (IllegalArgumentException e) {
            throw new OptionConflict(e.getMessage());
        }
        Files.createDirectories(folder);
        Sessions.write(made, folder);
        out().println(folder.resolve(SessionDocument.NAME));
        return Main.ALL_PACKED;
    }

    @Command(name = "schema", mixinStandardHelpOptions = true, description = "The JSON schema of session documents.") int schema() {
        out().print(Sessions.schema());
        out().flush();
        return Main.ALL_PACKED;
    }

    /// @param verdict what a repair would do about it
    record FileJson(String path, String verdict, List<String> troubles, String text, int clips) {}

    record CheckJson(int rateHz, String depth, List<FileJson> files) {}

    @Command(name = "check", mixinStandardHelpOptions = true, description = {
        "Each file of a session: offline, linked, compressed, at another rate, damaged, twice.",
        "Exit 1 if the session is not whole."}) int check(@Parameters(paramLabel = "DIR") Path folder,
                @Option(names = "--json", description = "As JSON.") boolean json) throws Exception {
        SessionCheck check = SessionCheck.of(folder);
        if (json) {
            out().print(Json.write(new CheckJson(check.document().rateHz(), check.document().depth(), check.files().stream()
                    .map(f -> new FileJson(f.path(), f.verdict().id(), f.troubles().keySet().stream().map(Trouble::id).toList(), f.text(), f.clips()))
                    .toList())));
            out().flush();
        } else {
            SessionDocument document = check.document();
            out().println(String.format(Locale.ROOT, "%,d Hz, %s, %s, %s, %s", document.rateHz(), document.depthValue().label(),
                    Told.count(document.tracks().size(), "track"), Told.count(document.files().size(), "file"),
                    Told.duration((double) document.endFrame() / document.rateHz())));
            Terminal terminal = Terminal.ofProcess();
            Tables.print(out(), check.files().stream().map(f -> List.of(terminal.stamp(f.verdict()), f.path(), f.text())).toList());
            out().println(check.isWhole() ? "whole" : Told.count(check.toMend().size(), "file") + " to repair: 'ablecrate session repair'");
        }
        return check.isWhole() ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    @Command(name = "repair", mixinStandardHelpOptions = true, description = {
        "Makes a session whole: finds what is offline, converts and copies everything into its audio folder; clips follow.",
        "What was there can be brought back with 'ablecrate restore'."}) int repair(@Parameters(paramLabel = "DIR") Path folder,
                @Option(names = "--search", paramLabel = "DIR", description = "Where offline files may be; may be repeated.") List<Path> searched,
                @Option(names = "--dry-run", description = "Tell what would be done; nothing is written.") boolean dryRun,
                @Option(names = "--prove", description = "Play the session before and after on the stand-in, and tell what is left of one without the other.") boolean prove)
                throws Exception {
        SessionCheck check = SessionCheck.of(folder);
        SoundPath path = new SoundPath();
        SessionRepair repair = SessionRepair.of(check, searched == null ? List.of() : searched, new SheetCatalogue().find("session"),
                new Measurements(path, Catalogue.none()), () -> false);
        if (dryRun || repair.list().items().isEmpty()) {
            new ListPrinter(out(), Terminal.ofProcess(), true).print(repair.list(), List.of());
            return told(repair);
        }
        PackingSlip slip = packed(repair.list(), path, folder);
        slip.ofThisRun().forEach(i -> i.outputs().forEach(o -> out().println(i.source() + " → " + o.path())));
        if (repair.worstShiftFrames() > 0)
            out().println(String.format(Locale.ROOT, "clips lie up to %.2f samples from where they were", repair.worstShiftFrames()));
        told(repair);
        SessionCheck after = SessionCheck.of(folder);
        out().println(after.isWhole() ? "whole" : Told.count(after.toMend().size(), "file") + " left: 'ablecrate session check' tells them");
        if (prove) {
            Optional<FormerSession> former = FormerSession.of(repair);
            if (former.isPresent())
                compare(former.get(), repair);
            else
                out().println("nothing was changed, so there is nothing to compare");
        }
        return after.isWhole() ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    @Command(name = "consolidate", mixinStandardHelpOptions = true, description = {
        "Makes a session with one file a track, from bar 1 to the end, with gains, fades and pan; what is muted is silent.",
        "The session itself stays as it is."}) int consolidate(@Parameters(paramLabel = "DIR") Path folder,
                @Option(names = "--into", required = true, paramLabel = "DIR", description = "The new session's folder.") Path into) throws Exception {
        SoundPath path = new SoundPath();
        Path mixes = Files.createTempDirectory("ablecrate-tracks");
        try {
            PackingList list = Consolidation.of(SessionCheck.of(folder), mixes, into, new SheetCatalogue().find("session"),
                    new Measurements(path, Catalogue.none()), () -> false);
            PackingSlip slip = packed(list, path, into);
            slip.ofThisRun().forEach(i -> i.outputs().forEach(o -> out().println(o.path())));
            return slip.isAllPacked() ? Main.ALL_PACKED : Main.SOME_LEFT;
        } finally {
            try (Stream<Path> left = Files.list(mixes)) {
                for (Path mix : left.toList())
                    Files.delete(mix);
            }
            Files.delete(mixes);
        }
    }

    private PackingSlip packed(PackingList list, SoundPath path, Path into) throws IOException {
        PackingSlip slip = new Packer(list, path, Runtime.getRuntime().availableProcessors(), new StopSignal(), _ -> {}, InstantSource.system()).packInto(into);
        slip.ofThisRun().forEach(i -> i.error().ifPresent(e -> err().println(i.outcome() + ": " + i.source() + ": " + e)));
        return slip;
    }

    private int told(SessionRepair repair) {
        repair.found().forEach((file, how) -> out().println(file + ": " + how));
        repair.left().forEach(f -> err().println("offline: " + f.path() + (repair.found().containsKey(f.path()) ? "" : "; name a folder with --search")));
        return repair.left().isEmpty() ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    private void compare(FormerSession former, SessionRepair repair) throws IOException {
        Path folder = repair.check().folder();
        SessionHost.Opened before = SessionHost.open(former.document(), folder, Optional.of(p -> Sounds.open(former.at(p)))),
                now = SessionHost.open(folder, Optional.of(Sounds::open));
        SessionMix.Difference left = new SessionMix(now).difference(new SessionMix(before), repair.lowestRateHz(), _ -> {}, () -> false);
        out().println(String.format(Locale.ROOT, "before and after differ by %.1f dBFS at most, %.1f dBFS on average, below %,.0f Hz", left.peakDb(),
                left.rmsDb(), left.belowHz()));
    }

    private PrintWriter out() { return spec.commandLine().getOut(); }

    private PrintWriter err() { return spec.commandLine().getErr(); }
}
