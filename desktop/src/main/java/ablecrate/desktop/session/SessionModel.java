package ablecrate.desktop.session;

import ablecrate.audio.FrameSource;
import ablecrate.change.Told;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.hearing.Playback;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.destination.SheetCatalogue;
import ablecrate.disk.DiskFault;
import ablecrate.json.Json;
import ablecrate.option.OptionConflict;
import ablecrate.pack.Originals;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.SessionPlan;
import ablecrate.relink.SessionCheck;
import ablecrate.relink.SessionRepair;
import ablecrate.session.SessionDocument;
import ablecrate.session.TempoMap;
import ablecrate.standins.SessionHost;
import ablecrate.standins.SessionMix;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Executor;
import java.util.concurrent.atomic.AtomicInteger;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.value.ObservableValue;

/// The session in the folder that is packed into, with what the packing list would put on its tracks. It is heard as the stand-in for a session plays it.
/// FX thread only.
public final class SessionModel implements Hearable {
    /// A clip on its lane.
    /// @param start,length in frames of the time line
    /// @param from,to of its file, as shares
    /// @param isSilent whether the session cannot play it as it is
    /// @param sound whose wave is drawn; empty where the file is not there
    public record Box(String file, long start, long length, double from, double to, boolean isSilent, Optional<SoundFile> sound) {}

    /// @param isNew whether packing would make it
    public record Lane(String name, boolean isNew, List<Box> boxes) {}

    /// @param files what is the matter with each file; empty where there is no session yet
    public record Shown(SessionDocument document, List<Lane> lanes, List<SessionCheck.Entry> files, boolean isThere) {
        public TempoMap bars() { return document.bars(); }

        public long endFrame() { return lanes.stream().flatMap(l -> l.boxes().stream()).mapToLong(b -> b.start() + b.length()).max().orElse(0); }

        public List<SessionCheck.Entry> toMend() { return files.stream().filter(SessionCheck.Entry::isToMend).toList(); }
    }

    private record Read(SessionCheck check, SessionHost.Opened host) {}

    private final CrateModel crate;
    private final PackRunModel run;
    private final Background background;
    private final Playback playback;
    private final ReadOnlyObjectWrapper<Optional<Shown>> shown = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyStringWrapper side = new ReadOnlyStringWrapper("Session");
    private final MixProof proof;
    private final AtomicInteger generation = new AtomicInteger();
    /// Asked by the player's thread.
    private volatile Set<Integer> muted = Set.of(), soloed = Set.of();
    private volatile boolean clicks;
    private Optional<Path> folder = Optional.empty();
    private Optional<Read> read = Optional.empty();
    private long playedFrom;

    public SessionModel(CrateModel crate, PackRunModel run, Background background, Executor fx) {
        this.crate = crate;
        this.run = run;
        this.background = background;
        proof = new MixProof(background);
        playback = new Playback(fx, () -> crate.tell("no sound device: running silent"));
        crate.jobProperty().subscribe(_ -> look());
        crate.sheetProperty().subscribe(_ -> look());
        crate.onList(this::renew);
        run.slipProperty().subscribe(_ -> lookAgain());
    }

    /// Empty where no session is packed into.
    public ReadOnlyObjectProperty<Optional<Shown>> shownProperty() { return shown.getReadOnlyProperty(); }

    private Optional<Path> wanted() { return crate.sheetProperty().get().isSession() ? crate.job().into() : Optional.empty(); }

    private void look() {
        if (wanted().equals(folder)) return;
        proof.clear();
        lookAgain();
    }

    /// Whether the session sounds as it did before it was made whole.
    public MixProof proof() { return proof; }

    /// Reads document and files again.
    public void lookAgain() {
        folder = wanted();
        int mine = generation.incrementAndGet();
        if (folder.isEmpty() || !Files.exists(folder.get().resolve(SessionDocument.NAME))) {
            read = Optional.empty();
            stop();
            renew();
            return;
        }
        Path at = folder.get();
        background.run(() -> new Read(SessionCheck.of(at), SessionHost.open(at, Optional.empty())), now -> {
            if (mine != generation.get()) return;
            stop();
            read = Optional.of(now);
            muted = Set.of();
            soloed = Set.of();
            renew();
        }, e -> {
            if (mine == generation.get()) failed(e);
        });
    }

    private void failed(Exception e) {
        crate.fail(switch (e) {
            case IOException io -> DiskFault.text(io);
            case Json.JsonFault fault -> fault.getMessage();
            case OptionConflict conflict -> conflict.getMessage();
            default -> "a fault in Able Crate itself: " + e;
        });
    }

    private void renew() {
        PackingList list = crate.listProperty().get();
        Optional<SessionPlan> plan = list.session().filter(_ -> crate.sheetProperty().get().isSession());
        if (read.isEmpty() && plan.isEmpty()) {
            shown.set(Optional.empty());
            return;
        }
        SessionDocument document = read.map(r -> r.check().document()).orElseGet(() -> plan.get().document());
        List<Lane> lanes = new ArrayList<>();
        read.ifPresent(r -> lanes.addAll(lanes(r)));
        plan.ifPresent(p -> lanes.addAll(lanes(p, list)));
        shown.set(Optional.of(new Shown(document, lanes, read.map(r -> r.check().files()).orElse(List.of()), read.isPresent())));
    }

    private static List<Lane> lanes(Read read) {
        Map<String, SessionCheck.Entry> files = new HashMap<>();
        read.check().files().forEach(f -> files.put(f.path(), f));
        Set<String> refused = new HashSet<>();
        read.host().refusals().forEach(r -> refused.add(r.path()));
        return read.check().document().tracks().stream().map(t -> new Lane(t.name(), false, t.clips().stream().map(c -> {
            Optional<SoundFile> sound = files.get(c.file()).sound();
            double frames = sound.map(s -> (double) s.frames()).orElse(1.0),
                    part = sound.map(s -> (double) c.lengthFrames() * s.rateHz() / read.check().document().rateHz()).orElse(1.0);
            return new Box(c.file(), c.startFrame(), c.lengthFrames(), c.offsetFrames() / frames, Math.min(1, (c.offsetFrames() + part) / frames),
                    refused.contains(c.file()), sound);
        }).toList())).toList();
    }

    private static List<Lane> lanes(SessionPlan plan, PackingList list) {
        Map<String, Lane> lanes = new LinkedHashMap<>();
        for (PackingItem item : list.items())
            for (PlannedOutput output : item.outputs())
                plan.of(output.path()).ifPresent(place -> {
                    String key = place.panPercent() != 0 ? place.track() + "\n" + place.startFrame() : output.path();
                    lanes.computeIfAbsent(key, _ -> new Lane(place.track(), true, new ArrayList<>())).boxes()
                            .add(new Box(output.path(), place.startFrame(), output.shape().frames(), 0, 1, false, Optional.of(output.source())));
                });
        return List.copyOf(lanes.values());
    }

    /// Makes the session whole; the slip shows what was done.
    /// @param searched where offline files may be
    /// @param isProven whether the mixes before and after are compared then
    public void repair(List<Path> searched, boolean isProven) {
        if (read.isEmpty() || run.runningProperty().get()) return;
        SessionCheck check = read.get().check();
        crate.tell("looking at the session's files …");
        background.run(() -> SessionRepair.of(check, searched, new SheetCatalogue().find("session"), crate.book(), () -> false), repair -> {
            List<String> left = repair.left().stream().map(SessionCheck.Entry::path).toList();
            if (!left.isEmpty())
                crate.fail(Told.count(left.size(), "file") + " offline: " + Told.some(left) + "; look for "
                        + (left.size() == 1 ? "it" : "them") + " in another folder");
            crate.tell("");
            proof.clear();
            if (!repair.list().items().isEmpty()) run.pack(repair.list(), crate.path(), check.folder(), _ -> {
                if (isProven) proof.compare(repair);
            });
        }, this::failed);
    }

    /// Undoes the last change that a pack or a repair made to the session.
    public void takeBack() {
        if (folder.isEmpty() || run.runningProperty().get()) return;
        proof.clear();
        Path at = folder.get();
        background.run(() -> Originals.restore(at, false), done -> {
            if (!done.problems().isEmpty()) crate.fail(Told.some(done.problems()));
            crate.tell("taken back: " + Told.count(done.broughtBack().size(), "file") + " brought back, " + done.removed().size() + " taken away");
            crate.rescan();
            lookAgain();
        }, this::failed);
    }

    /// The session in a sentence.
    public String sentence() {
        if (shown.get().isEmpty()) return "";
        Shown s = shown.get().get();
        SessionDocument d = s.document();
        TempoMap.Meter meter = d.meters().getFirst();
        double seconds = (double) s.endFrame() / d.rateHz();
        return String.format(Locale.ROOT, "%,d Hz, %s, %s bpm, %d/%d; %s, %s", d.rateHz(), d.depthValue().label(),
                d.tempo().size() > 1 ? "changing" : Told.bpm(d.tempo().getFirst().bpm()), meter.beats(), meter.unit(), Told.count(s.lanes().size(), "track"),
                Told.duration(seconds));
    }

    /// Whether the beats are heard as well.
    public void click(boolean isOn) { clicks = isOn; }

    public boolean isMuted(int lane) { return muted.contains(lane); }

    public boolean isSoloed(int lane) { return soloed.contains(lane); }

    public void mute(int lane, boolean isMuted) { muted = with(muted, lane, isMuted); }

    public void solo(int lane, boolean isSoloed) { soloed = with(soloed, lane, isSoloed); }

    private static Set<Integer> with(Set<Integer> lanes, int lane, boolean isIn) {
        Set<Integer> changed = new HashSet<>(lanes);
        if (isIn)
            changed.add(lane);
        else
            changed.remove(lane);
        return Set.copyOf(changed);
    }

    private boolean isHeard(int lane) { return soloed.isEmpty() ? !muted.contains(lane) : soloed.contains(lane); }

    /// From a frame of the time line on.
    public void playFrom(long frame) {
        stop();
        if (read.isEmpty() || read.get().host().frames() == 0) {
            crate.tell("nothing of this session can play yet: pack into it, or repair it");
            return;
        }
        SessionHost.Opened host = read.get().host();
        playedFrom = Math.clamp(frame, 0, host.frames());
        long from = playedFrom;
        playback.play(() -> new MixSource(host, new SessionMix(host, this::isHeard, () -> clicks), from),
                fault -> crate.fail("cannot play the session: " + fault.getMessage()));
    }

    /// The time line as a stream.
    private record MixSource(SessionHost.Opened host, SessionMix mix, long[] at) implements FrameSource {
        MixSource(SessionHost.Opened host, SessionMix mix, long from) { this(host, mix, new long[]{from}); }

        @Override public int channels() { return 2; }

        @Override public int rateHz() { return host.rateHz(); }

        @Override public long frames() { return host.frames(); }

        @Override public int read(double[][] planes, int into, int count) throws IOException {
            int n = (int) Math.min(count, host.frames() - at[0]);
            if (n <= 0) return 0;
            double[][] block = mix.render(at[0], n);
            for (int channel = 0; channel < 2; channel++)
                System.arraycopy(block[channel], 0, planes[channel], into, n);
            at[0] += n;
            return n;
        }
    }

    /// The frame that is heard; below 0 where nothing plays.
    public double playedFrame() { return playback.isPlaying() ? playedFrom + playback.heardFrames() : -1; }

    @Override public void toggle() {
        if (playback.isPlaying())
            stop();
        else
            playFrom(0);
    }

    @Override public void otherSide() { crate.tell("a session has one side; source and result are heard on the other benches"); }

    @Override public Playback playback() { return playback; }

    @Override public ObservableValue<String> side() { return side.getReadOnlyProperty(); }

    @Override public double share() {
        return playback.isPlaying() ? playedFrame() / Math.max(1, read.map(r -> r.host().frames()).orElse(1L)) : -1;
    }

    @Override public void playAt(double share) { playFrom((long) (share * read.map(r -> r.host().frames()).orElse(0L))); }

    @Override public Heard heard() {
        return playback.heardAt(playedFrame() / Math.max(1, read.map(r -> r.host().rateHz()).orElse(1)));
    }
}
