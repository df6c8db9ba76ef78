package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Compression;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.dsp.Onset;
import ablecrate.instrument.Cue;
import ablecrate.library.Gathered;
import ablecrate.option.Chop;
import ablecrate.option.ClipPart;
import ablecrate.option.Finds;
import ablecrate.option.ItemEdit;
import ablecrate.option.MonoLaw;
import ablecrate.option.Treatment;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.SourceChain;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/// What is wanted otherwise for the current sound, or the chosen ones: part, fades, crossfade, mono law, group. FX thread only.
public final class WaveEdits {
    private static final double USUAL_CROSSFADE_MS = 30;

    private final CrateModel crate;
    private final PackingListModel list;
    private final Background background;

    public WaveEdits(CrateModel crate, PackingListModel list, Background background) {
        this.background = background;
        this.crate = crate;
        this.list = list;
    }

    /// Edits belong to files: a sample of a bank, a piece of a clip and what is joined of others have none of their own.
    private Optional<SoundFile> file() { return list.currentProperty().get().flatMap(i -> i.source().clip()).filter(f -> f.id().isWholeFile()); }

    /// Where start and end of the current sound were put; where they were not, what is used of it. What is used may be more, as it holds all of a loop.
    Optional<FrameRange> part() {
        return file().flatMap(f -> edit(f).part().filter(p -> p.end() <= f.frames())
                .or(() -> list.currentProperty().get().flatMap(PackingItem::output).map(o -> o.sourceChain().part()))
                .or(() -> Optional.of(new FrameRange(0, f.frames()))));
    }

    private ItemEdit edit(SoundFile file) { return crate.job().edits().getOrDefault(file.path(), ItemEdit.NONE); }

    /// What lies between start and end becomes a part of the clip: a sound of its own, once there are two.
    public void addPart() {
        Optional<FrameRange> part = part();
        if (part.isEmpty()) {
            crate.tell("choose a sound of the list first");
            return;
        }
        SoundFile clip = file().orElseThrow();
        List<ClipPart> parts = new ArrayList<>(finds(clip).parts());
        if (parts.contains(ClipPart.of(part.get()))) {
            crate.tell("what lies between start and end is a part already; move them, then add the next");
            return;
        }
        parts.add(ClipPart.of(part.get()));
        setParts(clip, parts, "part " + parts.size());
        crate.tell("part " + parts.size() + " of " + clip.path().getFileName() + (parts.size() == 1 ? "; mark off the next and add it as well" : ""));
    }

    /// Takes away the part that lies at a frame.
    public void removePart(double frame) {
        Optional<SoundFile> clip = file();
        List<Gathered.Piece> pieces = list.currentProperty().get().map(i -> i.source().pieces()).orElse(List.of());
        List<ClipPart> parts = clip.map(this::finds).map(Finds::parts).orElse(List.of());
        // Of one part the sound is no clip in pieces.
        int at = pieces.isEmpty()
                ? parts.size() - 1
                : IntStream.range(0, pieces.size()).filter(i -> frame >= pieces.get(i).frames().start() && frame < pieces.get(i).frames().end()).findFirst()
                        .orElse(-1);
        // A part that the clip does not have is no piece of it.
        if (at < 0 || at >= parts.size() || pieces.size() > 0 && pieces.size() != parts.size()) {
            crate.tell("there is no part to take away here; all of them stand beside 'Parts of clips' (V)");
            return;
        }
        List<ClipPart> left = new ArrayList<>(parts);
        left.remove(at);
        setParts(clip.get(), left, "part taken away");
    }

    private Finds finds(SoundFile clip) { return edit(clip).treatment(crate.job().options().treatment()).finds(); }

    private void setParts(SoundFile clip, List<ClipPart> parts, String label) {
        Treatment all = crate.job().options().treatment();
        crate.edit(Set.of(clip.path()), e -> e.treated(all, t -> t.withFinds(t.finds().withChop(t.finds().chop().withPlaces(Chop.NONE)).withParts(parts))),
                label + " of " + clip.path().getFileName());
    }

    /// Into which the current clip is cut, or marked off by cue points that are set where slices would begin.
    List<Gathered.Piece> pieces() {
        Optional<PackingItem> line = list.currentProperty().get();
        List<Gathered.Piece> cut = line.map(i -> i.source().pieces()).orElse(List.of());
        Optional<SoundFile> clip = file();
        if (!cut.isEmpty() || clip.isEmpty() || !finds(clip.get()).pieces().asCues() || finds(clip.get()).chop().by() == Chop.By.NONE) return cut;
        return line.flatMap(PackingItem::output).map(o -> marked(clip.get(), o)).orElse(List.of());
    }

    /// Cue points that the file does not have itself, in frames of the source.
    private static List<Gathered.Piece> marked(SoundFile clip, PlannedOutput output) {
        SourceChain chain = output.sourceChain();
        Set<Long> own = clip.metadata().cues().stream().map(Cue::id).collect(Collectors.toSet());
        List<Cue> set = output.metadata().cues().stream().filter(c -> !own.contains(c.id())).sorted(Comparator.comparingLong(Cue::frame)).toList();
        List<Long> places = set.stream().map(c -> chain.part().start() + Math.round((double) c.frame() * chain.inputStep() / chain.outputStep())).toList();
        return IntStream.range(0, set.size())
                .mapToObj(i -> new Gathered.Piece(set.get(i).label().orElse(""),
                        new FrameRange(places.get(i), i + 1 < places.size() ? Math.max(places.get(i), places.get(i + 1)) : chain.part().end()), places.get(i)))
                .toList();
    }

    /// Where slices of the current clip begin, however they were found; empty where it is none.
    private List<Long> places(SoundFile clip) {
        Finds finds = finds(clip);
        if (finds.chop().by() == Chop.By.NONE) return List.of();
        if (finds.chop().by() == Chop.By.AT) return finds.chop().frames();
        List<Gathered.Piece> pieces = pieces();
        // The whole clip is a piece behind its slices.
        return pieces.stream().limit(finds.pieces().withWhole() ? Math.max(0, pieces.size() - 1) : pieces.size()).map(Gathered.Piece::place).toList();
    }

    /// A slice begins at a frame, beside those that there are; from then on all of them are the user's.
    public void cutAt(double frame) {
        Optional<SoundFile> clip = file();
        if (clip.isEmpty() || frame < 0) {
            crate.tell(clip.isEmpty() ? "choose a sound of the list first" : "click into the wave first: the clip is cut at the mark");
            return;
        }
        Finds finds = finds(clip.get());
        List<Long> places = new ArrayList<>(places(clip.get()));
        if (!finds.parts().isEmpty()) {
            crate.tell("the clip is packed in parts; take those away first (Shift+P), then it can be cut into slices");
            return;
        }
        if (finds.chop().by() != Chop.By.NONE && places.isEmpty() && list.currentProperty().get().filter(PackingItem::isSettled).isEmpty()) {
            crate.tell("its slices are not known yet");
            return;
        }
        if (places.isEmpty()) places.add(part().orElseThrow().start());
        if (places.contains((long) frame)) return;
        places.add((long) frame);
        cut(clip.get(), places, "cut");
    }

    /// The slice at a frame goes on from the one before; the first is left out.
    public void uncutAt(double frame) {
        Optional<SoundFile> clip = file();
        List<Long> places = new ArrayList<>(clip.map(this::places).orElse(List.of()));
        Optional<Long> start = places.stream().filter(p -> p <= frame).max(Comparator.naturalOrder());
        if (start.isEmpty()) {
            crate.tell("there is no slice at the mark");
            return;
        }
        places.remove(start.get());
        cut(clip.get(), places, "cut taken away");
    }

    /// Whether the current clip is cut into slices, which can be moved.
    boolean areCut() { return file().map(f -> finds(f).chop().by() != Chop.By.NONE).orElse(false); }

    /// Moves where a slice begins, up to its neighbours.
    /// @return where it begins now
    long moveCut(long from, double to) {
        SoundFile clip = file().orElseThrow();
        List<Long> places = new ArrayList<>(places(clip));
        int at = places.indexOf(from);
        if (at < 0) return from;
        long least = at == 0 ? 0 : places.get(at - 1) + 1, most = at + 1 < places.size() ? places.get(at + 1) - 1 : clip.frames() - 1;
        places.set(at, Math.clamp((long) to, least, most));
        crate.dragEdit(Set.of(clip.path()), withCuts(places), "slice of " + clip.path().getFileName());
        return places.get(at);
    }

    private void cut(SoundFile clip, List<Long> places, String label) {
        crate.edit(Set.of(clip.path()), withCuts(places), label + " of " + clip.path().getFileName());
        crate.tell(finds(clip).chop().by() == Chop.By.NONE ? "the clip is whole again" : "slices begin at " + places.size() + " places, as you set them");
    }

    private UnaryOperator<ItemEdit> withCuts(List<Long> places) {
        Treatment all = crate.job().options().treatment();
        return e -> e.treated(all, own -> {
            // One slice is the whole clip; one cue point is one.
            Chop chop = places.isEmpty() || places.size() == 1 && !own.finds().pieces().asCues() ? Chop.NONE : Chop.at(places);
            return own.withFinds(own.finds().withChop(own.finds().chop().withPlaces(chop)));
        });
    }

    private void drag(UnaryOperator<ItemEdit> change, String label) {
        file().ifPresent(f -> crate.dragEdit(Set.of(f.path()), change, label + " of " + f.path().getFileName()));
    }

    public void cutStart(double frame) {
        if (frame < 0) return;
        part().ifPresent(p -> drag(e -> e.withPart(Optional.of(new FrameRange(Math.clamp((long) frame, 0, p.end() - 1), p.end()))), "start"));
    }

    public void cutEnd(double frame) {
        if (frame < 0) return;
        file().ifPresent(f -> part()
                .ifPresent(p -> drag(e -> e.withPart(Optional.of(new FrameRange(p.start(), Math.clamp((long) frame, p.start() + 1, f.frames())))), "end")));
    }

    /// Fades in from the start of what is used up to a frame of the source.
    public void fadeIn(double frame) {
        if (frame < 0) return;
        file().ifPresent(f -> part().ifPresent(p -> drag(e -> e.withFadeIn(Optional.of(ms(f, frame - p.start()))), "fade-in")));
    }

    public void fadeOut(double frame) {
        if (frame < 0) return;
        file().ifPresent(f -> part().ifPresent(p -> drag(e -> e.withFadeOut(Optional.of(ms(f, p.end() - frame))), "fade-out")));
    }

    private static double ms(SoundFile file, double frames) { return Math.max(0, Math.rint(frames * 10_000 / file.rateHz()) / 10); }

    private Set<Path> chosen() {
        return list.chosen().stream().filter(i -> i.source().clip().isPresent()).map(i -> i.source().path()).collect(Collectors.toSet());
    }

    private void editChosen(UnaryOperator<ItemEdit> change, String label) {
        Set<Path> files = chosen();
        if (files.isEmpty())
            crate.tell("choose sounds of the list first");
        else
            crate.edit(files, change, label);
    }

    /// As all the others are.
    public void undoAll() { editChosen(_ -> ItemEdit.NONE, "treated as all others"); }

    /// Gives the chosen one gain where sounds are levelled together; again takes it back.
    public void group() {
        Set<Path> files = chosen();
        if (files.size() < 2) {
            crate.tell("choose two sounds or more to level them together");
            return;
        }
        String name = list.chosen().getFirst().source().stem() + " and " + (files.size() - 1) + " more";
        boolean isGrouped = files.stream().allMatch(f -> crate.job().edits().getOrDefault(f, ItemEdit.NONE).group().equals(Optional.of(name)));
        editChosen(e -> e.withGroup(isGrouped ? Optional.empty() : Optional.of(name)), isGrouped ? "group dissolved" : "group of " + files.size());
        if (!isGrouped && !crate.job().options().treatment().together())
            crate.changeOptions(o -> o.withTreatment(o.treatment().withTogether(true)), "levels together");
        crate.tell(isGrouped ? "the group is dissolved" : "one gain for '" + name + "'");
    }

    public void crossfade() {
        boolean isOn = list.currentProperty().get().map(i -> i.source().path())
                .map(p -> crate.job().edits().getOrDefault(p, ItemEdit.NONE).loop().crossfadeMs())
                .filter(ms -> ms.orElse(0.0) > 0).isPresent();
        editChosen(e -> e.withLoopCrossfade(isOn ? Optional.empty() : Optional.of(USUAL_CROSSFADE_MS)), "loop crossfade");
    }

    /// Starts the chosen sounds so that their first onsets fall on one frame: that of the first of them whose file says where it starts. Where none does, each starts with
    /// its onset. Sounds whose files say it stay as they are.
    public void lineUp() {
        List<SoundFile> files = list.chosen().stream().flatMap(i -> i.source().clip().stream()).toList();
        List<SoundFile> unknown = files.stream()
                .filter(f -> f.compression().map(Compression::start).filter(Compression.Start.Unknown.class::isInstance).isPresent()).toList();
        if (unknown.isEmpty()) {
            crate.tell("choose compressed sounds that do not say where they start; those chosen do");
            return;
        }
        Optional<SoundFile> told = files.stream().filter(f -> !unknown.contains(f)).findFirst();
        background.run(() -> {
            double target = told.isEmpty() ? 0 : onset(told.get()) / (double) told.get().rateHz();
            Map<Path, FrameRange> parts = new LinkedHashMap<>();
            for (SoundFile file : unknown)
                parts.put(file.path(), new FrameRange(Math.clamp(onset(file) - Math.round(target * file.rateHz()), 0, file.frames() - 1), file.frames()));
            return parts;
        }, parts -> {
            crate.editEach(parts.keySet(), (path, e) -> e.withPart(Optional.of(parts.get(path))), "line up " + parts.size());
            crate.tell("lined up by the first onset" + told.map(t -> " of " + t.path().getFileName()).orElse(""));
        }, e -> crate.fail("could not be listened to: " + e.getMessage()));
    }

    private static long onset(SoundFile file) throws IOException {
        try (var source = file.open()) {
            return Onset.first(source).orElse(0);
        }
    }

    public void nextMonoLaw() {
        MonoLaw now = list.currentProperty().get().map(PackingItem::source).map(s -> crate.job().edits().getOrDefault(s.path(), ItemEdit.NONE).monoLaw()
                .orElse(crate.job().options().monoLaw())).orElse(MonoLaw.MID);
        MonoLaw next = MonoLaw.values()[(now.ordinal() + 1) % MonoLaw.values().length];
        editChosen(e -> e.withMonoLaw(Optional.of(next)), "stereo to mono: " + next.id());
        crate.tell("stereo to mono: " + next.id());
    }
}
