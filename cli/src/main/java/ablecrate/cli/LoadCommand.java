package ablecrate.cli;

import ablecrate.audio.Figures;
import ablecrate.change.Told;
import ablecrate.json.Json;
import ablecrate.standins.Device;
import ablecrate.standins.Performance;
import ablecrate.standins.Preset;
import ablecrate.standins.SessionHost;
import ablecrate.standins.SessionMix;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "load", mixinStandardHelpOptions = true, description = {
    "Loads a card into a stand-in for a device: what it holds, and what the device refuses.",
    "Exit 1 if it refuses anything."}) final class LoadCommand implements Callable<Integer> {
    private static final String SESSION = "session";

    @Spec private CommandSpec spec;
    @Parameters(paramLabel = "CARD", description = "The folder that was packed into.") private Path card;
    @Option(names = "--as", required = true, paramLabel = "ID", description = "The device, named as its destination (drum-pads, keyboard-sampler …), or session, whose clips are mixed with --into.") private String device;
    @Option(names = "--play", paramLabel = "FILE.mid", description = "A MIDI file to play, with --into.") private Path midi;
    @Option(names = "--into", paramLabel = "WAV", description = "The file that is played into.") private Path into;
    @Option(names = "--preset", paramLabel = "NAME", description = "What plays; the first if none is named.") private Optional<String> preset;
    @Option(names = "--decode", description = "With session: what it refuses and can be decoded plays all the same.") private boolean decodes;
    @Option(names = "--click", description = "With session: a click on each beat is mixed in.") private boolean clicks;
    @Option(names = "--json", description = "As JSON.") private boolean json;

    /// @param presets names, with how many sounds each has
    record Report(String device, List<Entry> presets, List<Device.Refusal> refusals, long memoryBytes, long mostBytes) {}

    record Entry(String name, int zones) {}

    @Override public Integer call() throws IOException {
        if (!Files.isDirectory(card)) throw wrong(card + " is no folder");
        if (device.equals(SESSION)) return session();
        if (clicks) throw wrong("--click is for sessions");
        Device standin = Device.byId(device).orElseThrow(() -> wrong(
                "no device '" + device + "'; there are " + Device.ALL.stream().map(Device::id).collect(Collectors.joining(", ")) + ", " + SESSION));
        if (midi == null != (into == null)) throw wrong("--play and --into belong together");
        Device.Loaded loaded = standin.load(card);
        print(standin, loaded);
        if (midi != null) play(loaded);
        return loaded.refusals().isEmpty() ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    /// @param frames at its rate
    record SessionReport(int rateHz, long frames, List<SessionHost.Track> tracks, List<Device.Refusal> refusals) {}

    private int session() throws IOException {
        if (midi != null || preset.isPresent()) throw wrong("a session plays its clips; --play and --preset are for devices");
        SessionHost.Opened opened = SessionHost.open(card, decodes ? Optional.of(Sounds::open) : Optional.empty());
        PrintWriter out = spec.commandLine().getOut();
        if (json)
            out.print(Json.write(new SessionReport(opened.rateHz(), opened.frames(), opened.tracks(), opened.refusals())));
        else {
            out.println("Session: " + Told.count(opened.tracks().size(), "track") + ", "
                    + Told.duration((double) opened.frames() / Math.max(1, opened.rateHz())) + ", " + opened.refusals().size() + " refused");
            Tables.print(out, opened.tracks().stream().map(t -> List.of("track", t.name(), t.playing() + " of " + Told.count(t.clips(), "clip"))).toList());
            Tables.print(out, opened.refusals().stream().map(r -> List.of("refused", r.path(), r.reason())).toList());
        }
        out.flush();
        if (into != null) new SessionMix(opened, _ -> true, () -> clicks).write(into);
        return opened.refusals().isEmpty() ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    private ParameterException wrong(String message) { return new ParameterException(spec.commandLine(), message); }

    private void print(Device standin, Device.Loaded loaded) {
        PrintWriter out = spec.commandLine().getOut();
        if (json) {
            out.print(Json.write(new Report(standin.id(), loaded.presets().stream().map(p -> new Entry(p.name(), p.slots().size())).toList(), loaded.refusals(),
                    loaded.memoryBytes(), loaded.mostBytes())));
            out.flush();
            return;
        }
        out.println(standin.name() + ": " + loaded.presets().size() + " loaded, " + loaded.refusals().size() + " refused"
                + (loaded.mostBytes() > 0 ? ", memory " + Figures.bytes(loaded.memoryBytes()) + " of " + Figures.bytes(loaded.mostBytes()) : ""));
        Tables.print(out,
                loaded.presets().stream().map(p -> List.of("loaded", p.name(), Told.count(p.slots().size(), "sound"))).toList());
        Tables.print(out, loaded.refusals().stream().map(r -> List.of("refused", r.path(), r.reason())).toList());
        out.flush();
    }

    private void play(Device.Loaded loaded) throws IOException {
        Preset played = loaded.presets().stream().filter(p -> preset.isEmpty() || p.name().equals(preset.get())).findFirst()
                .orElseThrow(() -> wrong(preset.map(p -> "no preset '" + p + "' was loaded").orElse("nothing was loaded that could play")));
        Performance.of(played, midi, Performance.RATE_HZ).write(into);
    }
}
