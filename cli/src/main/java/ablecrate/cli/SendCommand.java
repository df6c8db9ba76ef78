package ablecrate.cli;

import ablecrate.audio.Figures;
import ablecrate.change.Told;
import ablecrate.dump.Dump;
import ablecrate.dump.DumpFolder;
import ablecrate.dump.DumpSender;
import ablecrate.dump.MidiCable;
import ablecrate.dump.MidiPort;
import ablecrate.dump.Outcome;
import ablecrate.dump.Progress;
import ablecrate.json.Json;
import ablecrate.pack.StopSignal;
import ablecrate.standins.Device;
import ablecrate.standins.RackOnCable;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "send", mixinStandardHelpOptions = true, description = {
    "Sends MIDI sample dumps to a device, one after another, with handshake where it answers.",
    "Exit 1 if any did not arrive."}) final class SendCommand implements Callable<Integer> {
    @Spec private CommandSpec spec;
    @Parameters(paramLabel = "DUMP", arity = "0..*", description = "Dumps (.sds, .syx), or folders with some.") private List<Path> paths;
    @Option(names = "--to", paramLabel = "PORT", description = "The MIDI port, or " + Cables.STANDIN
            + ", the stand-in on a simulated cable.") private String to;
    @Option(names = "--answers", paramLabel = "PORT", description = "The port that answers come from; the one of the same name without it.") private Optional<String> answers;
    @Option(names = "--ports", description = "Lists the MIDI ports there are.") private boolean lists;
    @Option(names = "--number", paramLabel = "N", description = "The number of the first sound, 0 to 16383; the others follow. Without it as the files say.") private Optional<Integer> number;
    @Option(names = "--compare", description = "Asks for each sound again and compares; takes as long once more.") private boolean compares;
    @Option(names = "--json", description = "As JSON.") private boolean json;
    @Mixin private Cables cables;

    /// @param seconds of the cable
    record Entry(String name, int number, String outcome, int packets, int sentAgain, double seconds, String note) {}

    record Report(double seconds, List<Entry> sounds, List<Unsent> faults) {}

    record Unsent(String file, String why) {}

    @Override public Integer call() throws Exception {
        if (lists) return ports();
        if (to == null || paths == null) throw new ParameterException(spec.commandLine(), "say what to send, and where to: --to PORT; --ports lists them");
        if (number.isPresent() && (number.get() < 0 || number.get() > 16_383)) throw new ParameterException(spec.commandLine(), "--number: 0 to 16383");
        DumpFolder folder = DumpFolder.read(paths);
        if (folder.dumps().isEmpty() && folder.faults().isEmpty())
            throw new ParameterException(spec.commandLine(),
                    "no dumps there; pack for " + Cables.STANDIN + ", or with --format sds, to make some");
        return Interruptible.call(stop -> send(folder, stop));
    }

    private int ports() {
        PrintWriter out = spec.commandLine().getOut();
        List<String> outputs = MidiPort.outputs();
        if (outputs.isEmpty()) out.println("no MIDI ports; is the interface connected?");
        outputs.forEach(out::println);
        return Main.ALL_PACKED;
    }

    private int send(DumpFolder folder, StopSignal stop) throws Exception {
        boolean isStandin = to.equals(Cables.STANDIN);
        RackOnCable device = cables.device();
        List<Dump> dumps = new ArrayList<>();
        for (Dump dump : folder.dumps())
            dumps.add(number.isEmpty() ? dump : dump.numbered(number.get() + dumps.size()));
        ProgressLine line = new ProgressLine(spec.commandLine().getErr());
        PrintWriter out = spec.commandLine().getOut();
        List<DumpSender.Sent> sent;
        Duration time;
        try (MidiCable cable = isStandin ? cables.to(device, spec) : MidiPort.to(to, answers)) {
            sent = new DumpSender(cable, compares, p -> line.show(p.share(), told(p), p.name()), stop::isStopped).send(dumps, _ -> {});
            time = cable.time();
        }
        if (json)
            out.print(Json.write(new Report(seconds(time), sent.stream().map(SendCommand::entry).toList(),
                    folder.faults().stream().map(f -> new Unsent(f.file().toString(), f.why())).toList())));
        else {
            Tables.print(out, sent.stream().map(s -> List.of(s.outcome().label(), "number " + s.number(), s.name(), Told.duration(seconds(s.time())),
                    s.again() > 0 ? Told.count(s.again(), "packet") + " sent again" : "", s.note())).toList());
            Tables.print(out, folder.faults().stream().map(f -> List.of("not sent", f.file().toString(), f.why())).toList());
            out.println(Told.duration(seconds(time)) + " on the cable");
            if (isStandin) told(out, device.loaded());
        }
        out.flush();
        return stop.isStopped()
                ? Main.STOPPED
                : folder.faults().isEmpty() && sent.stream().noneMatch(s -> s.outcome() == Outcome.FAILED) ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    private static void told(PrintWriter out, Device.Loaded loaded) {
        out.println("The device holds " + Told.count(loaded.presets().stream().mapToInt(p -> p.slots().size()).sum(), "sound") + ", memory "
                + Figures.bytes(loaded.memoryBytes()) + " of " + Figures.bytes(loaded.mostBytes()));
        Tables.print(out, loaded.refusals().stream().distinct().map(r -> List.of("refused", r.path(), r.reason())).toList());
    }

    private static double seconds(Duration time) { return time.toMillis() / 1e3; }

    private static Entry entry(DumpSender.Sent s) {
        return new Entry(s.name(), s.number(), s.outcome().name().toLowerCase(Locale.ROOT), s.packets(), s.again(), seconds(s.time()), s.note());
    }

    static String told(Progress p) {
        return String.format(Locale.ROOT, "%3.0f %%  sound %,d of %,d, packet %,d of %,d, %s left", p.share() * 100, p.sounds().done() + 1,
                p.sounds().all(), p.packets().done(), p.packets().all(), Told.duration(seconds(p.left())));
    }
}
