package ablecrate.desktop.compare;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.desktop.Background;
import ablecrate.desktop.SharedCrate;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.plan.PackingItem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentLinkedDeque;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// The result beside its source: always that of the current line, never one that is out of date.
class CompareModelTest {
    private static final Path demo = SharedCrate.FOLDER;
    @TempDir Path temp;
    private final Deque<Runnable> later = new ConcurrentLinkedDeque<>();
    private final List<String> told = new ArrayList<>();
    private CrateModel crate;
    private PackingListModel list;
    private PackRunModel run;
    private CompareModel model;

    @BeforeEach void open() {
        Background background = new Background(Runnable::run, later::add);
        crate = new CrateModel(background, SharedCrate.CATALOGUE);
        list = new PackingListModel(crate);
        run = new PackRunModel(background, told::add);
        model = new CompareModel(crate, list, run, background, later::add);
        crate.gather(List.of(demo));
        crate.aim("session");
        settle();
        model.shownProperty().set(true);
    }

    @AfterEach void close() { model.shownProperty().set(false); }

    private void settle() {
        while (!later.isEmpty())
            later.poll().run();
    }

    private PackingItem choose(Predicate<PackingItem> which) {
        PackingItem item = list.all().stream().filter(which).findFirst().orElseThrow();
        list.choose(List.of(item), Optional.of(item));
        settle();
        return item;
    }

    private PackingItem choose(String name) { return choose(i -> i.source().fileName().equals(name)); }

    private CompareModel.Compared compared() { return model.comparedProperty().get().orElseThrow(); }

    private Map<String, CompareModel.Row> rows() { return CompareModel.rows(compared()).stream().collect(Collectors.toMap(CompareModel.Row::name, r -> r)); }

    @Test void whatCannotBeComparedSaysWhy() {
        list.choose(List.of(), Optional.empty());
        settle();
        assertThat(model.stateProperty().get()).as("the head of the bench says what to do").isEmpty();
        choose(PackingItem::isInstruments);
        assertThat(model.stateProperty().get()).contains("not an instrument");
        choose(i -> i.outputs().isEmpty());
        assertThat(model.stateProperty().get()).contains("Nothing comes of this line");
        assertThat(model.comparedProperty().get()).isEmpty();
        assertThat(model.heard().leftDb()).as("nothing plays").isEqualTo(Double.NEGATIVE_INFINITY);
        model.toggle();
        assertThat(model.playingProperty().get()).as("there is nothing to play").isFalse();
    }

    @Test void theRowsAreThoseOfBothFiles() throws Exception {
        PackingItem item = choose("Oven Door.wav");
        assertThat(compared().item()).isEqualTo(item);
        assertThat(compared().isPacked()).isFalse();
        assertThat(rows().get("Rate").result()).isEqualTo("48,000 Hz");
        assertThat(rows().get("Depth").result()).isEqualTo("24 bit");
        assertThat(rows().get("Size").source()).isEqualTo(Math.round(Files.size(item.source().path()) / 1e3) + " kB");
        assertThat(rows().values()).noneMatch(r -> r.source().isBlank() || r.result().isBlank());
        assertThat(CompareModel.liftDb(compared()) % 6).as("whole steps").isZero();
        assertThat(CompareModel.liftDb(compared())).isBetween(0.0, 90.0);
    }

    /// The preview lies in a folder of its own, which goes with it.
    @Test void aPreviewLeavesNothingBehind() {
        choose("Oven Door.wav");
        Path first = compared().result().path();
        assertThat(first).exists();
        choose("overture harp.wav");
        Path second = compared().result().path();
        assertThat(first.getParent()).doesNotExist();
        assertThat(second).exists();
        model.shownProperty().set(false);
        assertThat(second.getParent()).doesNotExist();
        assertThat(model.comparedProperty().get()).isEmpty();
    }

    /// Made while the user has long gone on to another: it is let go, and not shown.
    @Test void whatComesTooLateIsNotShown() {
        PackingItem slow = list.all().stream().filter(i -> i.source().fileName().equals("Oven Door.wav")).findFirst().orElseThrow();
        list.choose(List.of(slow), Optional.of(slow));
        List<Runnable> late = List.copyOf(later);
        later.clear();
        choose("overture harp.wav");
        late.forEach(Runnable::run);
        settle();
        assertThat(compared().item().source().fileName()).isEqualTo("overture harp.wav");
    }

    @Test void anOptionThatChangesTheResultMakesItAnew() {
        choose("Oven Door.wav");
        crate.changeOptions(o -> o.withTreatment(o.treatment().withFadeOut(ablecrate.option.Fade.NONE_OUT.withMs(50))), "fade");
        settle();
        assertThat(compared().output().outputChain().ends().fadeOutFrames()).isEqualTo(2400);
        assertThat(compared().found().nullDb().orElseThrow()).as("the fade is the difference").isGreaterThan(-120);
    }

    @Test void thePackedFileIsLookedAtWhereThereIsOne() throws Exception {
        choose("Oven Door.wav");
        assertThat(model.packedFile()).isEmpty();
        model.packedProperty().set(true);
        settle();
        assertThat(compared().isPacked()).as("there is none yet").isFalse();
        run.pack(crate.listProperty().get(), crate.path(), temp.resolve("out"));
        settle();
        assertThat(run.slipProperty().get()).isPresent();
        assertThat(compared().isPacked()).isTrue();
        assertThat(run.doneProperty().get()).as("told by the slip from now on").isZero();
        // A run that fails takes nothing of the one before away.
        Files.writeString(temp.resolve("a file"), "");
        run.pack(crate.listProperty().get(), crate.path(), temp.resolve("a file"));
        settle();
        assertThat(told).isNotEmpty();
        assertThat(model.packedFile().orElseThrow()).startsWith(temp.resolve("out"));
        assertThat(compared().result().path()).isEqualTo(model.packedFile().orElseThrow());
        Files.write(model.packedFile().orElseThrow(), new byte[]{'R', 'I', 'F', 'F', 1, 2, 3});
        model.packedProperty().set(false);
        settle();
        assertThat(compared().isPacked()).isFalse();
        model.packedProperty().set(true);
        settle();
        assertThat(model.comparedProperty().get()).isEmpty();
        assertThat(model.stateProperty().get()).as("a packed file that is spoilt").isNotBlank();
    }

    @Test void aSourceThatIsGoneIsToldInWords() throws Exception {
        Path own = Files.createDirectories(temp.resolve("own"));
        Path file = Files.copy(choose("Oven Door.wav").source().path(), own.resolve("lid.wav"));
        crate.newJob();
        crate.gather(List.of(own));
        crate.aim("session");
        settle();
        Files.delete(file);
        choose("lid.wav");
        assertThat(model.comparedProperty().get()).isEmpty();
        assertThat(model.stateProperty().get()).contains("lid.wav");
    }

    @Test void oneHearsSourceThenResultThenDifference() {
        List<CompareModel.Heard> heard = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            heard.add(model.heardProperty().get());
            model.otherSide();
        }
        assertThat(heard).containsExactly(CompareModel.Heard.SOURCE, CompareModel.Heard.RESULT, CompareModel.Heard.DIFFERENCE, CompareModel.Heard.SOURCE);
    }

    /// While the rest is still being packed.
    @Test void whatIsPackedAlreadyCanBeHeardAtOnce() throws Exception {
        PackingItem item = choose("bottle_60.aif");
        model.packedProperty().set(true);
        settle();
        assertThat(compared().isPacked()).isFalse();
        run.pack(crate.listProperty().get(), crate.path(), temp.resolve("out"));
        while (run.done(item.source().path()).isEmpty())
            later.poll().run();
        assertThat(run.runningProperty().get()).isTrue();
        assertThat(run.slipProperty().get()).isEmpty();
        assertThat(run.done(item.source().path()).orElseThrow().outcome()).isEqualTo("packed");
        assertThat(model.packedFile()).as("the file, not yet the slip").isPresent();
        settle();
        assertThat(run.slipProperty().get()).isPresent();
        assertThat(compared().isPacked()).isTrue();
    }
}
