package ablecrate.planner.join;

import ablecrate.audio.Depth;
import ablecrate.audio.SampleEncoding;
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
    /// What sounds say of themselves that the one can say of its pieces.
    private static final Keeps OF_PIECES = new Keeps(false, false, true, false, false);
    private static final Set<Property> NOT_OF_PIECES = EnumSet.of(Property.LOOPS, Property.MAPPING, Property.BROADCAST, Property.TEXTS, Property.CHUNKS);
    /// What is told of the one.
    private static final Set<Property> OF_THE_WHOLE = EnumSet.of(Property.CUES, Property.LENGTH, Property.STRUCTURE);
    private static final SampleEncoding IN_FLIGHT = new SampleEncoding(SampleEncoding.Kind.FLOAT, 8, 64, ByteOrder.LITTLE_ENDIAN);

    private final Accepted whole;
    private final Joining joining;
    private final List<Gathered> all;
    private final Function<Measurement.Request, Optional<Measurement>> measured;
    private final SoundTarget target;
    private final List<SoundPlan> pieces;
    private final SoundPath path = new SoundPath();

    /// @param sounds at least one, of one or two channels
    /// @param edits of a sound, by its path
    public Joiner(Accepted accepted, List<Gathered> sounds, Function<Path, ItemEdit> edits, Function<Measurement.Request, Optional<Measurement>> measured) {
        joining = accepted.options().placing().joining();
        all = ordered(sounds, joining.order());
        this.measured = measured;
        int highestHz = files().mapToInt(SoundFile::rateHz).max().orElseThrow(), most = files().mapToInt(SoundFile::channels).max().orElseThrow();
        ChannelChoice choice = accepted.channels(most);
        boolean isMono = choice == ChannelChoice.MONO || choice == ChannelChoice.KEEP && most == 1;
        Accepted alike = accepted.alike(accepted.rateHz(highestHz), isMono ? ChannelChoice.MONO : ChannelChoice.STEREO);
        List<String> formats = files().map(SoundFile::formatId).distinct().toList();
        target = SoundTarget.file(accepted.container(formats.size() == 1 ? formats.getFirst() : ID), accepted.sheet().keeps(),
                accepted.options().metadata().written());
        SoundTarget piece = SoundTarget.file(accepted.container(target.id()), OF_PIECES, OF_PIECES);
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

    /// The one line.
    public PackingItem item(Leveling leveling) {
        List<PackingItem> items = pieces.stream().map(p -> p.item(leveling)).toList();
        Gathered source = new Gathered(all.getFirst().path().resolveSibling(joining.name()), folder().resolve(joining.name()), new Gathered.Content.Unread());
        List<Measurement.Request> wanted = items.stream().flatMap(i -> i.wanted().stream()).toList();
        boolean isSettled = items.stream().allMatch(PackingItem::isSettled);
        Optional<PackingItem> blocked = items.stream().filter(i -> i.outputs().isEmpty()).findFirst();
        if (blocked.isPresent())
            return PackingItem.of(source, List.of(new FileChange.Refused(Told.count(items.size(), "sound"),
                    "'" + blocked.get().source().fileName() + "' cannot be joined: " + blocked.get().reason())), List.of(), wanted, isSettled);
        SoundFile joined = joined(source.path(), items);
        Gathered one = new Gathered(source.path(), source.relative(), new Gathered.Content.Sound(joined));
        Depth finest = items.stream().map(i -> i.outputs().getFirst().shape().depth()).max(Comparator.comparingInt(Depth::resolutionBits)).orElseThrow();
        PackingItem plan = new SoundPlan(SoundTask.of(one, joined, target, whole.untreated(finest), ItemEdit.NONE, measured)).item(leveling);
        List<Change> changes = new ArrayList<>(List.of(new FileChange.Joined(items.size(), joined.durationSeconds(), joining.gapMs(), lost())));
        new PartChanges(items).changes().stream().filter(c -> !NOT_OF_PIECES.contains(c.property())).forEach(changes::add);
        plan.changes().stream().filter(c -> OF_THE_WHOLE.contains(c.property()) || c.verdict() == Verdict.BLOCKED).forEach(changes::add);
        List<PlannedSidecar> lists = plan.outputs().isEmpty() ? List.of() : lists(items, joined, plan.outputs().getFirst().shape().rateHz(), changes);
        return PackingItem.of(one, changes, plan.outputs(), wanted, isSettled && plan.isSettled()).withSidecars(lists);
    }

    /// What lies where in the one.
    /// @param changes get what is told of them
    private List<PlannedSidecar> lists(List<PackingItem> items, SoundFile joined, int rateHz, List<Change> changes) {
        if (whole.sheet().layout().soundsOnly() && joining.contents() != Joining.Contents.NONE) {
            changes.add(new FileChange.SidecarLeftOut("list of contents", FileChange.SidecarLeftOut.SOUNDS_ONLY));
            return List.of();
        }
        List<AudioPlace.Joined.Piece> laid = ((AudioPlace.Joined) joined.audio()).pieces();
        List<Contents.Entry> entries = new ArrayList<>();
        for (int i = 0; i < laid.size(); i++)
            entries.add(new Contents.Entry(items.get(i).source().stem(), laid.get(i).at(), laid.get(i).frames(), items.get(i).source().relative().toString()));
        Contents contents = new Contents(joining.name(), rateHz, entries);
        List<Sidecar> lists = new ArrayList<>();
        if (joining.contents().hasTable()) lists.add(new ContentsTable(contents));
        if (joining.contents().hasCueSheet() && entries.size() <= CueSheet.MOST_TRACKS) lists.add(new CueSheet(contents));
        if (joining.contents().hasCueSheet() && entries.size() > CueSheet.MOST_TRACKS)
            changes.add(new FileChange.SidecarLeftOut("cue sheet", "it holds " + CueSheet.MOST_TRACKS + " sounds, not " + entries.size()));
        lists.forEach(l -> changes.add(new FileChange.SidecarAdded(l.label(), l.entries(), l.noun(), "")));
        return lists.stream().map(l -> new PlannedSidecar("", l)).toList();
    }

    /// That all of them lie in.
    private Path folder() {
        Path common = all.getFirst().relative().getParent();
        for (Gathered g : all)
            while (common != null && !g.relative().startsWith(common))
                common = common.getParent();
        return common == null ? Path.of("") : common;
    }

    private SoundFile joined(Path path, List<PackingItem> items) {
        List<PlannedOutput> outputs = items.stream().map(i -> i.outputs().getFirst()).toList();
        int rateHz = outputs.getFirst().shape().rateHz();
        long gap = Math.round(joining.gapMs() * rateHz / 1000), at = 0;
        List<AudioPlace.Joined.Piece> laid = new ArrayList<>();
        List<Cue> cues = new ArrayList<>();
        for (int i = 0; i < outputs.size(); i++) {
            PlannedOutput o = outputs.get(i);
            long frames = o.sourceChain().frames(), start = at;
            laid.add(new AudioPlace.Joined.Piece(o.source(), start, frames, new RenderedPiece(this.path, o.source(), o.sourceChain(), o.outputChain())));
            cues.add(new Cue(cues.size() + 1L, start, frames, Optional.of(items.get(i).source().stem()), Optional.empty()));
            o.metadata().cues().forEach(c -> cues.add(new Cue(cues.size() + 1L, start + c.frame(), c.lengthFrames(), c.label(), c.note())));
            at += frames + (i + 1 < outputs.size() ? gap : 0);
        }
        SoundFile first = outputs.getFirst().source();
        // Samples that nothing was done to are written as they are; all others are as exact as they were computed.
        boolean areKept = outputs.stream().noneMatch(PlannedOutput::audioChanges)
                && files().map(SoundFile::encoding).map(SampleEncoding::depth).distinct().count() == 1;
        return new SoundFile(path, files().mapToLong(SoundFile::fileBytes).sum(), ID, Told.count(items.size(), "sound"), first.codec(),
                areKept ? first.encoding() : IN_FLIGHT, rateHz, outputs.getFirst().shape().channels(), at, new AudioPlace.Joined(laid),
                SoundMetadata.NONE.withCues(cues).withTexts(Map.of(TextField.NAME, joining.name())), List.of(), List.of());
    }

    /// What sounds say of themselves, and the one has no place for.
    private String lost() {
        Map<String, Integer> counts = new LinkedHashMap<>();
        files().map(SoundFile::metadata).forEach(m -> {
            // A sound has one loop that is held; those of many would be taken for others.
            if (!m.loops().isEmpty()) counts.merge("loops", 1, Integer::sum);
            if (!m.mapping().equals(Mapping.NONE)) counts.merge("key mapping", 1, Integer::sum);
            if (m.broadcast().isPresent()) counts.merge("time stamp", 1, Integer::sum);
            if (!m.texts().isEmpty()) counts.merge("texts", 1, Integer::sum);
        });
        files().filter(Joiner::hasOtherChunks).forEach(_ -> counts.merge("other chunks", 1, Integer::sum));
        return counts.entrySet().stream().map(e -> e.getKey() + " of " + e.getValue()).reduce((a, b) -> a + ", " + b).orElse("");
    }

    private static boolean hasOtherChunks(SoundFile file) {
        return SoundFormats.byId(file.formatId()).filter(
                f -> file.chunks().stream().map(c -> f.role(c.id())).anyMatch(r -> r == ChunkRole.TRAVELLER || r == ChunkRole.UNKNOWN)).isPresent();
    }
}
