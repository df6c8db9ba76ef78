package ablecrate.cli;

import ablecrate.change.Told;
import ablecrate.dump.DumpFolder;
import ablecrate.dump.DumpReceiver;
import ablecrate.dump.MidiCable;
import ablecrate.dump.MidiPort;
import ablecrate.dump.SoundNumbers;
import ablecrate.json.Json;
import ablecrate.pack.StopSignal;
import ablecrate.standins.RackOnCable;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

@Command(name = "receive", mixinStandardHelpOptions = true, description = {
    "Takes MIDI sample dumps from a device: those that are asked for, or what is sent there.",
    "Each becomes a file (.sds) that can be packed like any other sound. Exit 1 if any did not arrive whole."}) final class ReceiveCommand
            implements
                Callable<Integer> {
    @Spec private CommandSpec spec;
    @Option(names = "--from", required = true, paramLabel = "PORT", description = "The MIDI port, or " + Cables.STANDIN
            + ", the stand-in on a simulated cable.") private String from;
    @Option(names = "--asks", paramLabel = "PORT", description = "The port that questions go to; the one of the same name without it.") private Optional<String> asks;
    @Option(names = "--into", required = true, paramLabel = "DIR", description = "Where the sounds are put.") private Path into;
    @Option(names = "--sounds", paramLabel = "N,N-N", description = "Numbers to ask for. Without them, whatever is sent at the device is taken.") private Optional<String> sounds;
    @Option(names = "--wait", paramLabel = "SECONDS", defaultValue = "60", description = "How long to wait for what is sent at the device; 60 without it.") private int wait;
    @Option(names = "--holds", paramLabel = "DIR", description = "Dumps that the stand-in has in its memory.") private Optional<Path> holds;
    @Option(names = "--json", description = "As JSON.") private boolean json;
    @Mixin private Cables cables;

    record Entry(int number, String outcome, String file, double seconds, String note) {}

    @Override public Integer call() throws Exception {
        List<Integer> numbers = sounds.isEmpty()
                ? List.of()
                : SoundNumbers.of(sounds.get()).orElseThrow(() -> new ParameterException(spec.commandLine(),
                        "--sounds: '" + sounds.get() + "' is no list of numbers such as 1-10,12; they go to " + SoundNumbers.MOST));
        return Interruptible.call(stop -> receive(numbers, stop));
    }

    private int receive(List<Integer> numbers, StopSignal stop) throws IOException {
        // Before the sounds take their time.
        Files.createDirectories(into);
        List<Entry> entries = new ArrayList<>();
        RackOnCable device = cables.device();
        if (holds.isPresent()) device.hold(holds.get());
        ProgressLine line = new ProgressLine(spec.commandLine().getErr());
        try (MidiCable cable = from.equals(Cables.STANDIN) ? cables.to(device, spec) : MidiPort.from(from, asks)) {
            DumpReceiver receiver = new DumpReceiver(cable, p -> line.show(p.share(), SendCommand.told(p), p.name()), stop::isStopped);
            for (int i = 0; i < numbers.size() && !stop.isStopped(); i++)
                entries.add(entry(numbers.get(i), receiver.receive(numbers.get(i))));
            while (numbers.isEmpty() && !stop.isStopped()) {
                Optional<DumpReceiver.Received> next = receiver.next(Duration.ofSeconds(wait));
                if (next.isEmpty()) break;
                entries.add(entry(next.get().dump().map(d -> d.number()).orElse(-1), next.get()));
            }
        }
        PrintWriter out = spec.commandLine().getOut();
        if (json)
            out.print(Json.write(entries));
        else {
            Tables.print(out,
                    entries.stream().map(e -> List.of(e.outcome, e.number < 0 ? "" : "number " + e.number, e.file, Told.duration(e.seconds), e.note)).toList());
            if (entries.isEmpty()) out.println("nothing was received");
        }
        out.flush();
        return stop.isStopped() ? Main.STOPPED : !entries.isEmpty() && entries.stream().noneMatch(e -> e.file.isEmpty()) ? Main.ALL_PACKED : Main.SOME_LEFT;
    }

    private Entry entry(int number, DumpReceiver.Received received) throws IOException {
        String file = received.dump().isEmpty() ? "" : DumpFolder.keep(received.dump().get(), into).toString();
        return new Entry(number, received.outcome().label(), file, received.time().toMillis() / 1e3, received.note());
    }
}
