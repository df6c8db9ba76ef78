package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.desktop.bench.WaveEdits;
import ablecrate.desktop.crate.ClickTracks;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.crate.FolderTree;
import ablecrate.desktop.crate.Overview;
import ablecrate.desktop.destination.DestinationModel;
import ablecrate.desktop.levels.LevelsModel;
import ablecrate.desktop.levels.TreatmentModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.dsp.LevelMeasure;
import ablecrate.option.ItemEdit;
import ablecrate.option.MonoLaw;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.change.Change;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What the window knows, without a window: the models alone, with all work done on the spot.
class ModelsTest {
    private static final Path demo = SharedCrate.FOLDER;
    @TempDir Path temp;
    /// What is to be done a little later.
    private final Deque<Runnable> later = new ArrayDeque<>();
    private CrateModel crate;
    private PackingListModel list;

    @BeforeEach void open() {
        crate = new CrateModel(new Background(Runnable::run, later::add), SharedCrate.CATALOGUE);
        list = new PackingListModel(crate);
        crate.gather(List.of(demo));
        settle();
    }

    private void settle() {
        while (!later.isEmpty())
            later.poll().run();
    }

    private void choose(String... parts) {
        List<PackingItem> items = list.all().stream().filter(i -> List.of(parts).stream().anyMatch(p -> i.source().fileName().contains(p))).toList();
        list.choose(items, Optional.of(items.getFirst()));
    }

    private PackingItem line(String part) { return list.all().stream().filter(i -> i.source().fileName().contains(part)).findFirst().orElseThrow(); }

    @Test void filtersAddUpAndGoTogether() {
        crate.aim("session");
        settle();
        list.textProperty().set("BOTTLE");
        settle();
        assertThat(list.shown()).hasSizeBetween(10, 12);
        list.toggle(Verdict.REDUCED);
        settle();
        assertThat(list.shown()).allMatch(i -> i.verdict() == Verdict.REDUCED);
        list.toggle(Verdict.REDUCED);
        settle();
        list.toggle(Property.LOOPS);
        settle();
        assertThat(list.shown()).isNotEmpty().allMatch(i -> i.change(Property.LOOPS).isPresent());
        assertThat(list.isFiltered()).isTrue();
        list.showAll();
        settle();
        assertThat(list.shown()).hasSize(90);
        assertThat(list.isFiltered()).isFalse();
    }

    /// Against the lines themselves, each asked by itself.
    @Test void whatIsToldOfAllLinesIsWhatTheLinesSay() {
        for (String destination : List.of("drum-pads", "pocket-sampler")) {
            crate.aim(destination);
            settle();
            List<PackingItem> lines = list.all();
            Overview told = crate.overview();
            assertThat(told.list()).isSameAs(crate.listProperty().get());
            for (Verdict verdict : Verdict.values())
                assertThat(told.totals().get(verdict)).isEqualTo((int) lines.stream().filter(i -> i.verdict() == verdict).count());
            assertThat(told.going()).isEqualTo((int) lines.stream().filter(i -> i.verdict() != Verdict.BLOCKED).count()).isPositive();
            for (Property property : Property.values()) {
                List<Change> changes = lines.stream().flatMap(i -> i.changes().stream()).filter(c -> c.property() == property).toList();
                PackingList.Touched touched = told.touched().getOrDefault(property, PackingList.Touched.NONE);
                assertThat(touched.items()).as("lines that %s touches", property)
                        .isEqualTo((int) lines.stream().filter(i -> i.changes().stream().anyMatch(c -> c.property() == property && c.isOfNote())).count());
                assertThat(touched.worst()).isEqualTo(changes.stream().map(Change::verdict).max(Comparator.naturalOrder()).orElse(Verdict.KEPT));
            }
            assertThat(told.folders()).hasSize(1);
            assertThat(told.folders().getFirst().files()).isEqualTo(lines.size());
            for (FolderTree folder : told.folders().getFirst().below()) {
                List<PackingItem> in = lines.stream().filter(i -> i.source().relative().startsWith(folder.folder())).toList();
                assertThat(folder.files()).as(folder.name()).isEqualTo(in.size());
                assertThat(folder.blocked()).isEqualTo((int) in.stream().filter(i -> i.verdict() == Verdict.BLOCKED).count());
            }
            assertThat(lines).allMatch(i -> told.line(i.source().path()).orElseThrow() == i);
            assertThat(told.line(temp)).isEmpty();
        }
    }

    /// What becomes one line stays in its folder, where its sounds lie.
    @Test void aFolderThatIsOneLineStaysAmongTheFolders() {
        int sounds = crate.overview().folders().getFirst().below().stream().filter(f -> f.name().equals("Tin Kitchen")).findFirst().orElseThrow().files();
        crate.aim("keyboard-sampler");
        settle();
        FolderTree kitchen = crate.overview().folders().getFirst().below().stream().filter(f -> f.name().equals("Tin Kitchen")).findFirst().orElseThrow();
        assertThat(sounds).isGreaterThan(10);
        assertThat(kitchen.files()).as("lines").isEqualTo(1);
        list.folderProperty().set(Optional.of(kitchen.folder()));
        assertThat(list.shown()).singleElement().satisfies(i -> assertThat(i.source().fileName()).isEqualTo("Tin Kitchen"));
    }

    @Test void linesThatAreAlikeInWhatTheyAreSortedByKeepTheirTurn() {
        crate.aim("session");
        settle();
        PackingItem bank = list.all().stream().filter(i -> !i.parts().isEmpty()).findFirst().orElseThrow();
        list.unfold(bank, true);
        Comparator<PackingItem> worst = Comparator.comparing(PackingItem::verdict).reversed();
        list.shown().setComparator(list.keepingParts(worst));
        List<PackingItem> expected = new ArrayList<>();
        // A plain sort leaves what is alike as it stood; parts follow their instrument.
        crate.listProperty().get().items().stream().sorted(worst).forEach(i -> {
            expected.add(i);
            if (i == bank) expected.addAll(i.parts());
        });
        assertThat(list.shown()).containsExactlyElementsOf(expected);
        list.unfold(bank, false);
        assertThat(list.shown()).containsExactlyElementsOf(crate.listProperty().get().items().stream().sorted(worst).toList());
    }

    @Test void whatIsTakenOutComesBackByUndo() {
        choose("bottle_48", "bottle_57");
        list.removeChosen();
        settle();
        assertThat(list.all()).hasSize(88);
        assertThat(crate.messageProperty().get()).contains("2 files taken out of the job; the files themselves are untouched");
        crate.undo();
        settle();
        assertThat(list.all()).hasSize(90);
        assertThat(crate.canRedoProperty().get()).isTrue();
        crate.redo();
        settle();
        assertThat(list.all()).hasSize(88);
    }

    @Test void theChosenStayChosenWhenTheListIsMadeAnew() {
        choose("bottle_48", "bottle_57");
        crate.aim("drum-pads");
        settle();
        assertThat(list.chosen()).extracting(i -> i.source().stem()).containsExactlyInAnyOrder("bottle_48", "bottle_57");
        assertThat(list.chosen()).allMatch(i -> list.all().contains(i));
        assertThat(list.currentProperty().get().orElseThrow().source().stem()).isEqualTo("bottle_48");
    }

    /// A file that does not say its delay is lined up with one that does, by their first onsets.
    @Test void aStemThatDoesNotSayWhereItStartsIsLinedUp() throws Exception {
        Path told = demo.resolve("Overture, as mailed/overture bottles.m4a"), silent = temp.resolve("bottles again.m4a");
        byte[] bytes = Files.readAllBytes(told);
        // Without its edit list the file says nothing of its delay.
        int at = new String(bytes, java.nio.charset.StandardCharsets.ISO_8859_1).indexOf("edts");
        System.arraycopy("free".getBytes(java.nio.charset.StandardCharsets.ISO_8859_1), 0, bytes, at, 4);
        Files.write(silent, bytes);
        crate.gather(List.of(silent));
        settle();
        crate.aim("session");
        settle();
        assertThat(line("bottles again").change(Property.START).orElseThrow().reason()).contains("does not say where its sound starts");
        choose("overture bottles.m4a", "bottles again.m4a");
        new WaveEdits(crate, list, new Background(Runnable::run, Runnable::run)).lineUp();
        settle();
        assertThat(line("bottles again").outputs().getFirst().sourceChain().part().start()).isBetween(1021L, 1027L);
        assertThat(line("overture bottles.m4a").outputs().getFirst().sourceChain().part().start()).isZero();
    }

    @Test void aJobRemembersItsEdits() throws Exception {
        choose("bottle_48");
        WaveEdits edits = new WaveEdits(crate, list, new Background(Runnable::run, Runnable::run));
        edits.cutEnd(9000); // inside the loop: the loop stays whole
        settle();
        edits.fadeIn(441);
        settle();
        Path file = temp.resolve("edits.ablecrate");
        crate.save(file);
        settle();
        assertThat(crate.unsavedProperty().get()).isFalse();
        CrateModel other = new CrateModel(new Background(Runnable::run, Runnable::run), SharedCrate.CATALOGUE);
        other.open(file);
        assertThat(other.job().edits()).isEqualTo(crate.job().edits()).hasSize(1);
        assertThat(other.job().edits().values().iterator().next().fadeInMs()).contains(10.0);
    }

    @Test void dragsAreOneStepBack() {
        choose("Oven Door");
        WaveEdits edits = new WaveEdits(crate, list, new Background(Runnable::run, Runnable::run));
        for (int frame = 20_000; frame > 10_000; frame -= 500)
            edits.cutEnd(frame);
        settle();
        assertThat(line("Oven Door").outputs().getFirst().sourceChain().part().end()).isEqualTo(10_500);
        crate.undo();
        settle();
        assertThat(line("Oven Door").change(Property.TRIM)).isEmpty();
    }

    @Test void theChosenAreTreatedOtherwise() {
        crate.aim("four-track");
        settle();
        choose("orchard at night");
        WaveEdits edits = new WaveEdits(crate, list, new Background(Runnable::run, Runnable::run));
        edits.nextMonoLaw();
        settle();
        assertThat(line("orchard at night").change(Property.CHANNELS).orElseThrow().reason()).isEqualTo("right channel dropped");
        edits.nextMonoLaw();
        settle();
        assertThat(line("orchard at night").change(Property.CHANNELS).orElseThrow().reason()).isEqualTo("left channel dropped");
        edits.undoAll();
        settle();
        assertThat(crate.job().edits()).isEmpty();
        assertThat(crate.job().options().monoLaw()).isEqualTo(MonoLaw.MID);
    }

    @Test void aGroupIsMadeAndDissolved() {
        choose("glass_C3_v1", "glass_C3_v2");
        WaveEdits edits = new WaveEdits(crate, list, new Background(Runnable::run, Runnable::run));
        edits.group();
        settle();
        assertThat(crate.job().options().treatment().together()).isTrue();
        Set<Optional<String>> groups = new java.util.HashSet<>(crate.job().edits().values().stream().map(ItemEdit::group).toList());
        assertThat(groups).hasSize(1).allMatch(Optional::isPresent);
        edits.group();
        settle();
        assertThat(crate.job().edits()).isEmpty();
        choose("glass_C3_v1_rr1");
        edits.group();
        settle();
        assertThat(crate.messageProperty().get()).contains("choose two sounds or more");
    }

    @Test void dumbbellsFollowTheTarget() {
        crate.aim("session");
        settle();
        list.textProperty().set("Tin Kitchen/");
        settle();
        LevelsModel levels = new LevelsModel(crate, list, new TreatmentModel(crate, list), later::add);
        levels.shownProperty().set(true);
        settle();
        assertThat(levels.dumbbellsProperty().get()).hasSizeGreaterThan(10).allSatisfy(d -> {
            assertThat(d.before()).isPresent();
            assertThat(d.after()).isEqualTo(d.before());
        });
        levels.aimFirst();
        settle();
        assertThat(levels.target()).contains(-18.0);
        // At the target, or as near as the limiter may bring it, told.
        assertThat(levels.dumbbellsProperty().get()).allSatisfy(d -> {
            if (d.item().change(Property.LEVEL).orElseThrow().reason().contains("short of"))
                assertThat(d.after().orElseThrow()).isLessThan(-18.05);
            else
                assertThat(d.after().orElseThrow()).isBetween(-18.05, -17.95);
        }).anyMatch(d -> d.after().orElseThrow() > -18.05);
        assertThat(levels.dumbbellsProperty().get()).anyMatch(LevelsModel.Dumbbell::isHeld);
        levels.measureProperty().set(LevelMeasure.PEAK);
        settle();
        assertThat(levels.target()).as("the target is by another measure").isEmpty();
        levels.orderProperty().set(LevelsModel.Order.BEFORE);
        settle();
        List<Double> before = levels.dumbbellsProperty().get().stream().map(d -> d.before().orElseThrow()).toList();
        assertThat(before).isSorted();
    }

    /// A kit is a line; its sounds are heard and set one by one all the same.
    @Test void soundsOfAnInstrumentHaveTheirLevels() {
        crate.aim("keyboard-sampler");
        list.textProperty().set("Tin Kitchen");
        settle();
        LevelsModel levels = new LevelsModel(crate, list, new TreatmentModel(crate, list), later::add);
        levels.shownProperty().set(true);
        levels.aimFirst();
        settle();
        PackingItem kit = list.shown().getFirst();
        assertThat(list.shown()).hasSize(1);
        assertThat(levels.dumbbellsProperty().get()).extracting(LevelsModel.Dumbbell::item).containsExactlyElementsOf(kit.parts());
        assertThat(levels.dumbbellsProperty().get()).filteredOn(d -> Math.abs(d.after().orElseThrow() + 18) < 0.05).hasSizeGreaterThan(12);

        list.choose(List.of(kit), Optional.of(kit));
        levels.choose(levels.dumbbellsProperty().get().get(4));
        settle();
        assertThat(list.currentProperty().get().map(i -> i.source().path())).contains(kit.parts().get(4).source().path());
        assertThat(list.shown()).as("its sounds came into sight").hasSize(1 + kit.parts().size());
        assertThat(list.chosen()).as("what is set is set for the kit").containsExactly(kit);
        assertThat(levels.dumbbellsProperty().get()).as("each once").hasSize(kit.parts().size());
    }

    /// What one looks at is what one changes.
    @Test void aSoundTurnedToOnTheLevelsIsChosenInTheList() {
        list.textProperty().set("Tin Kitchen/");
        settle();
        LevelsModel levels = new LevelsModel(crate, list, new TreatmentModel(crate, list), later::add);
        levels.shownProperty().set(true);
        list.choose(List.of(list.shown().getFirst()), Optional.of(list.shown().getFirst()));
        settle();
        LevelsModel.Dumbbell third = levels.dumbbellsProperty().get().get(2);
        levels.choose(third);
        assertThat(list.chosen()).containsExactly(third.item());
        List<PackingItem> two = List.copyOf(list.shown().subList(0, 2));
        list.choose(two, Optional.of(two.getFirst()));
        levels.choose(third);
        assertThat(list.chosen()).as("several stay").isEqualTo(two);
        assertThat(list.currentProperty().get()).contains(third.item());
    }

    @Test void theTargetOfTheChosenIsTheirsAlone() {
        TreatmentModel treatments = new TreatmentModel(crate, list);
        LevelsModel levels = new LevelsModel(crate, list, treatments, later::add);
        levels.measureProperty().set(LevelMeasure.PEAK);
        levels.aim(-6, false);
        settle();
        PackingItem one = list.shown().getFirst();
        list.choose(List.of(one), Optional.of(one));
        treatments.scopeProperty().set(TreatmentModel.Scope.CHOSEN);
        assertThat(levels.target()).as("as all, until it has its own").contains(-6.0);
        levels.aim(-12, true);
        levels.aim(-13, true);
        levels.holdAt(-2);
        settle();
        assertThat(levels.target()).contains(-13.0);
        assertThat(levels.treatment().ceilingDbtp()).contains(-2.0);
        treatments.scopeProperty().set(TreatmentModel.Scope.ALL);
        assertThat(levels.target()).contains(-6.0);
        assertThat(levels.treatment().ceilingDbtp()).isEmpty();
        crate.undo();
        crate.undo();
        assertThat(crate.job().edits()).as("a drag is one step").isEmpty();
    }

    @Test void outliersAreMarked() {
        list.textProperty().set("Tin Kitchen/");
        settle();
        LevelsModel levels = new LevelsModel(crate, list, new TreatmentModel(crate, list), later::add);
        levels.shownProperty().set(true);
        settle();
        List<LevelsModel.Dumbbell> outliers = levels.dumbbellsProperty().get().stream().filter(LevelsModel.Dumbbell::isOutlier).toList();
        assertThat(outliers).isNotEmpty().extracting(LevelsModel.Dumbbell::name).contains("Kettle Drum (a kettle)");
        assertThat(outliers.size()).isLessThan(levels.dumbbellsProperty().get().size());
        levels.orderProperty().set(LevelsModel.Order.OUTLIERS);
        settle();
        assertThat(levels.dumbbellsProperty().get()).extracting(LevelsModel.Dumbbell::fromMiddleDb).isSortedAccordingTo(Comparator.reverseOrder());
    }

    @Test void aDestinationOffersOnlyWhatItLeavesOpen() {
        DestinationModel model = new DestinationModel(crate, new ClickTracks(crate, new Background(Runnable::run, Runnable::run)));
        crate.aim("drum-pads");
        settle();
        assertThat(model.openOptions()).extracting(DestinationModel.Open::id).doesNotContain("rate", "container").contains("dither", "existing");
        crate.aim("files");
        settle();
        assertThat(model.openOptions()).extracting(DestinationModel.Open::id).contains("rate", "container", "depth");
        assertThat(model.setNamePattern("(nam)")).hasValueSatisfying(fault -> assertThat(fault).contains("no word 'nam'"));
        assertThat(model.setNamePattern("(number..)-(name)")).isEmpty();
        settle();
        assertThat(model.namePreview()).contains(" → ").contains("01-").doesNotContain("numbered");
        assertThat(model.setNamePattern("(folder)")).isEmpty();
        settle();
        List<PackingItem> named = list.all().stream().filter(i -> !i.outputs().isEmpty()).toList();
        long folders = named.stream()
                .map(i -> i.source().folderName() + i.outputs().getFirst().path().substring(Math.max(0, i.outputs().getFirst().path().lastIndexOf('.'))))
                .distinct().count();
        assertThat(model.namePreview()).as("all sounds of one kind in a folder but one have a name that another has")
                .contains(named.size() - folders + " of " + named.size() + " names numbered, as another has the name: ");
        crate.undo();
        assertThat(crate.job().options().namePattern()).as("a pattern is typed in one step").isEmpty();
    }

    /// The list is planned anew while files are read once there is half as much again: the last of a thousand are fewer than that.
    @Test void theLastFilesAreListedHoweverFewTheyAre() throws Exception {
        Path sound = Files.copy(demo.resolve("Rhythms/windmill 96 bpm.wav"), temp.resolve("0.wav"));
        for (int i = 1; i < 1000; i++)
            Files.createLink(temp.resolve(i + ".wav"), sound);
        CrateModel other = new CrateModel(new Background(Runnable::run, later::add), SharedCrate.CATALOGUE);
        List<Integer> lines = new ArrayList<>();
        other.onList(() -> lines.add(other.listProperty().get().items().size()));
        other.gather(List.of(temp));
        settle();
        assertThat(lines).startsWith(0).endsWith(1000).isSorted();
        assertThat(other.toReadProperty().get()).isZero();
        assertThat(other.readingProperty().get()).isFalse();
        assertThat(other.isKnownProperty().get()).isTrue();
    }

    @Test void changedFilesAreSeenAfterLookingAgain() throws Exception {
        Path sound = Files.copy(demo.resolve("Rhythms/windmill 96 bpm.wav"), temp.resolve("one.wav"));
        CrateModel other = new CrateModel(new Background(Runnable::run, Runnable::run), SharedCrate.CATALOGUE);
        other.gather(List.of(temp));
        assertThat(other.listProperty().get().items()).hasSize(1);
        Files.delete(sound);
        other.rescan();
        assertThat(other.listProperty().get().items()).isEmpty();
    }

    @Test void aJobThatCannotBeOpenedLeavesTheOpenOne() throws Exception {
        Path bad = Files.writeString(temp.resolve("bad.ablecrate"), "{}");
        int before = list.all().size();
        crate.open(bad);
        settle();
        assertThat(list.all()).hasSize(before);
        crate.tell("something else");
        assertThat(crate.errorProperty().get()).as("it stays until it is dismissed").contains("bad.ablecrate");
        crate.dismissError();
        assertThat(crate.errorProperty().get()).isEmpty();
        assertThat(crate.messageProperty().get()).isEqualTo("something else");
    }
}
