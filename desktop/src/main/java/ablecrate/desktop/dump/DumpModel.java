package ablecrate.desktop.dump;

import ablecrate.change.Told;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.disk.DiskFault;
import ablecrate.dump.Dump;
import ablecrate.dump.DumpFolder;
import ablecrate.dump.DumpReceiver;
import ablecrate.dump.DumpSender;
import ablecrate.dump.MidiCable;
import ablecrate.dump.MidiPort;
import ablecrate.dump.Outcome;
import ablecrate.dump.Progress;
import ablecrate.dump.SoundNumbers;
import ablecrate.pack.StopSignal;
import ablecrate.standins.CableFaults;
import ablecrate.standins.RackOnCable;
import ablecrate.standins.SimulatedCable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.ObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// Dumps on their way to a device or from one. FX thread only, but for the transfer itself.
public final class DumpModel {
    /// The stand-in at the end of a simulated cable; a port of that name does not exist.
    static final String STANDIN = "Stand-in on a simulated cable";

    /// What became of a sound.
    /// @param file where it was put; empty for one that was sent
    public record Line(String name, int number, Outcome outcome, Duration time, String note, Optional<Path> file) {}

    private final CrateModel crate;
    private final Background background;
    /// As long as the window is open it keeps what it was sent.
    private final RackOnCable standin = new RackOnCable(RackOnCable.Manner.USUAL);
    private final ObservableList<String> ports = FXCollections.observableArrayList();
    private final ObjectProperty<String> port = new SimpleObjectProperty<>(STANDIN);
    private final ReadOnlyObjectWrapper<DumpFolder> folder = new ReadOnlyObjectWrapper<>(new DumpFolder(List.of(), List.of()));
    private final BooleanProperty compares = new SimpleBooleanProperty();
    private final ReadOnlyBooleanWrapper running = new ReadOnlyBooleanWrapper();
    private final ReadOnlyDoubleWrapper share = new ReadOnlyDoubleWrapper();
    private final ReadOnlyStringWrapper told = new ReadOnlyStringWrapper("");
    private final ObservableList<Line> lines = FXCollections.observableArrayList();
    private Optional<StopSignal> stop = Optional.empty();

    public DumpModel(CrateModel crate, Background background) {
        this.crate = crate;
        this.background = background;
    }

    /// Ports, the stand-in last.
    public ObservableList<String> ports() { return ports; }

    public ObjectProperty<String> portProperty() { return port; }

    /// What would be sent: the dumps in the folder that is packed into.
    public ReadOnlyObjectProperty<DumpFolder> folderProperty() { return folder.getReadOnlyProperty(); }

    /// Whether each sound is asked for again and compared.
    public BooleanProperty comparesProperty() { return compares; }

    public ReadOnlyBooleanProperty runningProperty() { return running.getReadOnlyProperty(); }

    public ReadOnlyDoubleProperty shareProperty() { return share.getReadOnlyProperty(); }

    /// How far it is, or what stood in the way.
    public ReadOnlyStringProperty toldProperty() { return told.getReadOnlyProperty(); }

    /// What became of each sound.
    public ObservableList<Line> lines() { return lines; }

    /// Looks at ports and the folder again.
    public void renew() {
        Optional<Path> into = crate.job().into().filter(Files::isDirectory);
        background.run(() -> new Found(MidiPort.outputs(), into.isEmpty() ? new DumpFolder(List.of(), List.of()) : DumpFolder.read(List.of(into.get()))),
                found -> {
                    String before = port.get();
                    ports.setAll(found.ports);
                    ports.add(STANDIN);
                    port.set(ports.contains(before) ? before : ports.getFirst());
                    folder.set(found.folder);
                }, this::failed);
    }

    private record Found(List<String> ports, DumpFolder folder) {}

    private void failed(Exception e) {
        running.set(false);
        told.set(e instanceof IOException io ? DiskFault.text(io) : e.toString());
    }

    /// The dumps in a sentence.
    public static String sentence(DumpFolder of) {
        if (of.dumps().isEmpty() && of.faults().isEmpty())
            return "No dumps in the folder that is packed into. Choose the rack sampler, or MIDI sample dump as the format, and pack.";
        Duration time = of.dumps().stream().map(Dump::cableTime).reduce(Duration.ZERO, Duration::plus);
        String faults = of.faults().isEmpty()
                ? ""
                : " " + Told.count(of.faults().size(), "file") + " cannot be sent: " + of.faults().getFirst().file().getFileName() + ", "
                        + of.faults().getFirst().why()
                        + ".";
        return Told.count(of.dumps().size(), "sound") + ", " + Told.duration(time.toMillis() / 1e3) + " on the cable." + faults;
    }

    private MidiCable cable(String name) throws IOException {
        if (name.equals(STANDIN)) {
            SimulatedCable cable = new SimulatedCable(standin, CableFaults.NONE, 0);
            return MidiCable.of(cable::send, cable::receive, cable::time);
        }
        return MidiPort.to(name, Optional.empty());
    }

    public void send() {
        List<Dump> dumps = folder.get().dumps();
        boolean isCompared = compares.get();
        if (dumps.isEmpty()) return;
        begin((cable, signal, progress, done) -> new DumpSender(cable, isCompared, progress, signal::isStopped)
                .send(dumps, s -> done.accept(new Line(s.name(), s.number(), s.outcome(), s.time(), s.note(), Optional.empty()))), () -> {});
    }

    /// Asks for sounds; they are files of a folder then, and gathered.
    /// @param numbers `1-10, 12`
    public void receive(String numbers, Path into) {
        Optional<List<Integer>> wanted = SoundNumbers.of(numbers);
        if (wanted.isEmpty()) {
            told.set("'" + numbers + "' is no list of numbers such as 1-10, 12; they go to " + SoundNumbers.MOST);
            return;
        }
        begin((cable, signal, progress, done) -> {
            DumpReceiver receiver = new DumpReceiver(cable, progress, signal::isStopped);
            for (int number : wanted.get()) {
                if (signal.isStopped()) break;
                DumpReceiver.Received received = receiver.receive(number);
                Optional<Path> file = received.dump().isEmpty() ? Optional.empty() : Optional.of(DumpFolder.keep(received.dump().get(), into));
                done.accept(new Line(received.dump().map(Dump::name).orElse("sound " + number), number, received.outcome(), received.time(), received.note(),
                        file));
            }
        }, () -> crate.gather(lines.stream().flatMap(l -> l.file().stream()).toList()));
    }

    private interface Transfer {
        void run(MidiCable cable, StopSignal stop, Progress.Listener progress, Consumer<Line> done) throws IOException;
    }

    private void begin(Transfer transfer, Runnable after) {
        if (running.get()) return;
        StopSignal signal = new StopSignal();
        stop = Optional.of(signal);
        lines.clear();
        share.set(0);
        told.set("");
        running.set(true);
        String name = port.get();
        Consumer<Progress> progress = background.newest(this::show);
        background.run(() -> {
            try (MidiCable cable = cable(name)) {
                transfer.run(cable, signal, progress::accept, line -> background.onFx(() -> lines.add(line)));
                return cable.time();
            }
        }, time -> {
            running.set(false);
            share.set(1);
            long failed = lines.stream().filter(l -> l.outcome() == Outcome.FAILED).count();
            told.set((signal.isStopped() ? "Stopped. " : "") + Told.count(lines.size() - failed, "sound") + " arrived"
                    + (failed == 0 ? "" : ", " + failed + " did not") + "; " + Told.duration(time.toMillis() / 1e3) + " on the cable.");
            after.run();
        }, this::failed);
    }

    private void show(Progress p) {
        if (!running.get()) return;
        share.set(p.share());
        told.set(p.name() + ": packet " + p.packets().done() + " of " + p.packets().all() + ", " + Told.duration(p.left().toMillis() / 1e3) + " left");
    }

    public void stop() { stop.ifPresent(StopSignal::stop); }
}
