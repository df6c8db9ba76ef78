package ablecrate.planner.join;

import ablecrate.audio.Depth;
import ablecrate.audio.SampleEncoding;
import ablecrate.change.AudioChange;
import ablecrate.change.Change;
import ablecrate.change.FileChange;
import ablecrate.change.Property;
import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.ChunkRole;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import ablecrate.library.Gathered;
import ablecrate.library.NaturalOrder;
import ablecrate.option.ItemEdit;
import ablecrate.option.Joining;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import ablecrate.planner.sound.Accepted;
import ablecrate.planner.sound.Leveling;
import ablecrate.planner.sound.PartChanges;
import ablecrate.planner.sound.SoundPlan;
import ablecrate.planner.sound.SoundTarget;
import ablecrate.planner.sound.SoundTask;
import ablecrate.signal.Measurement;
import ablecrate.signal.RenderedPiece;
import ablecrate.sidecar.Contents;
import ablecrate.sidecar.ContentsTable;
import ablecrate.sidecar.CueSheet;
import ablecrate.sidecar.Sidecar;
import ablecrate.signal.SoundPath;
import ablecrate.codec.OutputShape;
import ablecrate.codec.WrittenFormat;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Loop;
import java.util.HashMap;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;

/// Several sounds that become one. Each is planned as if it went alone, at a rate and with channels that all have; what would be written of them is laid one behind
/// the other, and that is planned as a sound.
public final class Joiner {
    private static final String ID = "joined";
    private static final int MOST_CHANNELS = 2;
    /// What sounds say of themselves, and the one says otherwise or not at all.
    private static final Set<Property> NOT_OF_PIECES = EnumSet.of(Property.MAPPING, Property.BROADCAST, Property.TEXTS, Property.CHUNKS);
    /// What is told of the one.
    private static final Set<Property> OF_THE_WHOLE = EnumSet.of(Property.CUES, Property.LENGTH, Property.STRUCTURE, Property.BROADCAST, Property.TEXTS);
    private static final SampleEncoding IN_FLIGHT = new SampleEncoding(SampleEncoding.Kind.FLOAT, 8, 64, ByteOrder.LITTLE_ENDIAN);

    private final Accepted whole;
    private final Joining joining;
    private final List<Gathered> all;
    private final List<String> missing;
    private final Function<Measurement.Request, Optional<Measurement>> measured;
    private final WrittenFormat format;
    private final SoundTarget target;
    private final boolean carriesLoops;
    private final List<SoundPlan> pieces;
    private final SoundPath path = new SoundPath();

    /// @param sounds at least one, of one or two channels
    /// @param edits of a sound, by its path
    public Joiner(Accepted accepted, List<Gathered> sounds, Function<Path, ItemEdit> edits, Function<Measurement.Request, Optional<Measurement>> measured) {
        joining = accepted.options().placing().joining();
        Precedence precedence = Precedence.of(joining.first(), ordered(sounds, joining.order()));
        all = precedence.sounds();
        missing = precedence.missing();
        this.measured = measured;
        int highestHz = files().mapToInt(SoundFile::rateHz).max().orElseThrow(), most = files().mapToInt(SoundFile::channels).max().orElseThrow();
        ChannelChoice choice = accepted.channels(most);
        boolean isMono = choice == ChannelChoice.MONO || choice == ChannelChoice.KEEP && most == 1;
        Accepted alike = accepted.alike(accepted.rateHz(highestHz), isMono ? ChannelChoice.MONO : ChannelChoice.STEREO);
        List<String> formats = files().map(SoundFile::formatId).distinct().toList();
        format = accepted.container(formats.size() == 1 ? formats.getFirst() : ID);
        target = SoundTarget.file(format, accepted.sheet().keeps(), accepted.options().metadata().written()).within(accepted.sheet().accepts().loops());
        carriesLoops = target.carriesLoops() && target.loops().sustain() >= all.size();
        Keeps ofPieces = new Keeps(carriesLoops, false, true, true, true);
        SoundTarget piece = SoundTarget.file(format, ofPieces, ofPieces).within(accepted.sheet().accepts().loops());
        whole = choice == ChannelChoice.SPLIT ? accepted.alike(alike.rateHz(highestHz), choice) : alike;
        pieces = all.stream().map(g -> new SoundPlan(SoundTask.of(g, g.sound().orElseThrow(), piece, alike, edits.apply(g.path()), measured))).toList();
    }

    /// Whether a line is joined, or stays by itself.
    public static boolean takes(Gathered line) { return line.sound().filter(f -> f.frames() > 0 && f.channels() <= MOST_CHANNELS).isPresent(); }

    private Stream<SoundFile> files() { return all.stream().map(g -> g.sound().orElseThrow()); }

    private static List<Gathered> ordered(List<Gathered> sounds, Joining.Order order) {
        return switch (order) {
            case FOLDER -> sounds;
            case NAME -> sounds.stream().sorted(Comparator.comparing(Gathered::fileName, NaturalOrder.INSTANCE)).toList();
            case LENGTH -> sounds.stream().sorted(Comparator.comparingDouble(g -> g.sound().orElseThrow().durationSeconds())).toList();
        };
    }

    public List<SoundPlan> sounds() { return pieces; }

    /// One line; more where that is more than a file holds.
    public List<PackingItem> items(Leveling leveling) {
        List<PackingItem> items = pieces.stream().map(p -> p.item(leveling)).toList();
        Optional<PackingItem> blocked = items.stream().filter(i -> i.outputs().isEmpty()).findFirst();
        if (blocked.isPresent()) {
            Gathered source = new Gathered(all.getFirst().path().resolveSibling(joining.name()), folder(all).resolve(joining.name()),
                    new Gathered.Content.Unread());
            return List.of(PackingItem.of(source, List.of(new FileChange.Refused(Told.count(items.size(), "sound"),
                    "'" + blocked.get().source().fileName() + "' cannot be joined: " + blocked.get().reason())), List.of(), wanted(items), areSettled(items)));
        }
        Depth finest = items.stream().map(i -> i.outputs().getFirst().shape().depth()).max(Comparator.comparingInt(Depth::resolutionBits)).orElseThrow();
        OutputShape first = items.getFirst().outputs().getFirst().shape();
        int channels = whole.channels(first.channels()) == ChannelChoice.SPLIT ? 1 : first.channels();
        OutputShape shape = new OutputShape(first.rateHz(), channels, target.depth(whole.untreated(finest).depth(finest), whole.sheet().accepts().depthList()),
                0);
        List<FileRoom.Share> shares = FileRoom.of(whole.sheet(), format, shape).shared(items, gap(first.rateHz()));
        if (shares.size() == 1) return List.of(item(items, joining.name(), finest, Optional.empty(), leveling));
        List<PackingItem> files = new ArrayList<>();
        for (FileRoom.Share share : shares) {
            int number = files.size() + 1;
            files.add(item(share.sounds(), joining.name() + "-" + number, finest,
                    Optional.of(new FileChange.JoinedInFiles(number, shares.size(), share.full())), leveling));
        }
        return files;
    }

    private static List<Measurement.Request> wanted(List<PackingItem> items) { return items.stream().flatMap(i -> i.wanted().stream()).toList(); }

    private static boolean areSettled(List<PackingItem> items) { return items.stream().allMatch(PackingItem::isSettled); }

    private long gap(int rateHz) { return Math.round(joining.gapMs() * rateHz / 1000); }

    private PackingItem item(List<PackingItem> items, String name, Depth finest, Optional<Change> inFiles, Leveling leveling) {
        List<Gathered> sources = items.stream().map(PackingItem::source).toList();
        Path path = sources.getFirst().path().resolveSibling(name);
        SoundFile joined = joined(path, name, items);
        Gathered one = new Gathered(path, folder(sources).resolve(name), new Gathered.Content.Sound(joined));
        PackingItem plan = new SoundPlan(SoundTask.of(one, joined, target, whole.untreated(finest), ItemEdit.NONE, measured)).item(leveling);
        List<Change> changes = new ArrayList<>(
                List.of(new FileChange.Joined(items.size(), joined.durationSeconds(), joining.gapMs(), lost(items, joined.metadata()))));
        inFiles.ifPresent(changes::add);
        if (!missing.isEmpty()) changes.add(new FileChange.JoinedFirstMissing(missing));
        new PartChanges(items).changes().stream().filter(c -> !NOT_OF_PIECES.contains(c.property()) && (carriesLoops || c.property() != Property.LOOPS))
                .forEach(changes::add);
        plan.outputs().stream().findFirst().flatMap(o -> depths(items, o)).ifPresent(changes::add);
        plan.changes().stream().filter(c -> OF_THE_WHOLE.contains(c.property()) || c.verdict() == Verdict.BLOCKED).forEach(changes::add);
        List<PlannedSidecar> lists = plan.outputs().isEmpty() ? List.of() : lists(items, name, joined, plan.outputs().getFirst().shape().rateHz(), changes);
        return PackingItem.of(one, changes, plan.outputs(), wanted(items), areSettled(items) && plan.isSettled()).withSidecars(lists);
    }

    private static Optional<Change> depths(List<PackingItem> items, PlannedOutput one) {
        List<Depth> from = items.stream().map(i -> i.outputs().getFirst()).filter(o -> !o.source().isLossy()).map(o -> o.source().encoding().depth()).distinct()
                .sorted().toList();
        return from.size() < 2 ? Optional.empty() : Optional.of(new AudioChange.DepthsUnited(from, one.shape().depth()));
    }

    /// What lies where in the one.
    /// @param changes get what is told of them
    private List<PlannedSidecar> lists(List<PackingItem> items, String name, SoundFile joined, int rateHz, List<Change> changes) {
        if (whole.sheet().layout().soundsOnly() && joining.contents() != Joining.Contents.NONE) {
            changes.add(new FileChange.SidecarLeftOut("list of contents", FileChange.SidecarLeftOut.SOUNDS_ONLY));
            return List.of();
        }
        List<AudioPlace.Joined.Piece> laid = ((AudioPlace.Joined) joined.audio()).pieces();
        List<Contents.Entry> entries = new ArrayList<>();
        for (int i = 0; i < laid.size(); i++)
            entries.add(new Contents.Entry(items.get(i).source().stem(), laid.get(i).at(), laid.get(i).frames(), items.get(i).source().relative().toString()));
        Contents contents = new Contents(name, rateHz, entries);
        List<Sidecar> lists = new ArrayList<>();
        if (joining.contents().hasTable()) lists.add(new ContentsTable(contents));
        if (joining.contents().hasCueSheet() && entries.size() <= CueSheet.MOST_TRACKS) lists.add(new CueSheet(contents));
        if (joining.contents().hasCueSheet() && entries.size() > CueSheet.MOST_TRACKS)
            changes.add(new FileChange.SidecarLeftOut("cue sheet", "it holds " + CueSheet.MOST_TRACKS + " sounds, not " + entries.size()));
        lists.forEach(l -> changes.add(new FileChange.SidecarAdded(l.label(), l.entries(), l.noun(), "")));
        return lists.stream().map(l -> new PlannedSidecar("", l)).toList();
    }

    /// That all of them lie in.
    private static Path folder(List<Gathered> sounds) {
        Path common = sounds.getFirst().relative().getParent();
        for (Gathered g : sounds)
            while (common != null && !g.relative().startsWith(common))
                common = common.getParent();
        return common == null ? Path.of("") : common;
    }

    private SoundFile joined(Path path, String name, List<PackingItem> items) {
        List<PlannedOutput> outputs = items.stream().map(i -> i.outputs().getFirst()).toList();
        int rateHz = outputs.getFirst().shape().rateHz();
        long at = 0;
        List<AudioPlace.Joined.Piece> laid = new ArrayList<>();
        List<Cue> cues = new ArrayList<>();
        List<Loop> loops = new ArrayList<>();
        for (int i = 0; i < outputs.size(); i++) {
            PlannedOutput o = outputs.get(i);
            long frames = o.sourceChain().frames(), start = at;
            laid.add(new AudioPlace.Joined.Piece(o.source(), start, frames, new RenderedPiece(this.path, o.source(), o.sourceChain(), o.outputChain())));
            cues.add(new Cue(cues.size() + 1L, start, frames, Optional.of(items.get(i).source().stem()), Optional.empty()));
            Map<Long, Long> numbers = new HashMap<>();
            o.metadata().cues().forEach(c -> {
                numbers.put(c.id(), cues.size() + 1L);
                cues.add(new Cue(cues.size() + 1L, start + c.frame(), c.lengthFrames(), c.label(), c.note()));
            });
            o.metadata().loops().forEach(l -> loops
                    .add(new Loop(l.frames().movedBy(start), l.mode(), l.use(), l.playCount(), l.tuningFraction(), numbers.getOrDefault(l.cueId(), 0L))));
            at += frames + (i + 1 < outputs.size() ? gap(rateHz) : 0);
        }
        SoundFile first = outputs.getFirst().source();
        // Samples that nothing was done to are written as they are; all others are as exact as they were computed.
        boolean areKept = outputs.stream().noneMatch(PlannedOutput::audioChanges)
                && outputs.stream().map(o -> o.source().encoding().depth()).distinct().count() == 1;
        Map<TextField, String> texts = new HashMap<>(alike(outputs));
        texts.put(TextField.NAME, name);
        // The first frame is that of the first sound.
        Optional<Broadcast> start = outputs.getFirst().metadata().broadcast().map(b -> Broadcast.starting(b.timeReferenceFrames()));
        return new SoundFile(path, outputs.stream().mapToLong(o -> o.source().fileBytes()).sum(), ID, Told.count(items.size(), "sound"), first.codec(),
                areKept ? first.encoding() : IN_FLIGHT, rateHz, outputs.getFirst().shape().channels(), at, new AudioPlace.Joined(laid),
                new SoundMetadata(loops, Mapping.NONE, cues, start, texts), List.of(), List.of());
    }

    /// Texts that all of them have.
    private static Map<TextField, String> alike(List<PlannedOutput> outputs) {
        return outputs.stream().map(o -> o.metadata().texts()).reduce((a, b) -> {
            Map<TextField, String> both = new HashMap<>(a);
            both.entrySet().retainAll(b.entrySet());
            return both;
        }).orElseThrow();
    }

    /// What sounds say of themselves, and the one does not.
    private String lost(List<PackingItem> items, SoundMetadata said) {
        Map<String, Integer> counts = new LinkedHashMap<>();
        for (int i = 0; i < items.size(); i++) {
            SoundFile file = items.get(i).source().sound().orElseThrow();
            SoundMetadata m = file.metadata();
            // A format may hold fewer loops than there are sounds; those that are left would be taken for others.
            if (!m.loops().isEmpty() && !carriesLoops) counts.merge("loops", 1, Integer::sum);
            if (!m.mapping().equals(Mapping.NONE)) counts.merge("key mapping", 1, Integer::sum);
            if (m.broadcast().isPresent() && i > 0) counts.merge("time stamp", 1, Integer::sum);
            if (m.texts().keySet().stream().anyMatch(f -> f != TextField.NAME && !said.texts().containsKey(f))) counts.merge("texts", 1, Integer::sum);
            if (hasOtherChunks(file)) counts.merge("other chunks", 1, Integer::sum);
        }
        return counts.entrySet().stream().map(e -> e.getKey() + " of " + e.getValue()).reduce((a, b) -> a + ", " + b).orElse("");
    }

    private static boolean hasOtherChunks(SoundFile file) {
        return SoundFormats.byId(file.formatId()).filter(
                f -> file.chunks().stream().map(c -> f.role(c.id())).anyMatch(r -> r == ChunkRole.TRAVELLER || r == ChunkRole.UNKNOWN)).isPresent();
    }
}
