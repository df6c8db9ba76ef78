package ablecrate.desktop.list;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.desktop.SharedCrate;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.library.Gathered;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.planner.Planner;
import ablecrate.change.Verdict;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import javafx.collections.ListChangeListener;
import javafx.collections.transformation.FilteredList;
import javafx.collections.transformation.SortedList;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LinesTest {
    private static List<PackingItem> items(int count, String stem) throws Exception {
        List<Gathered> gathered = IntStream.range(0, count).mapToObj(i -> Path.of("/orchard", stem + i + ".txt"))
                .map(p -> new Gathered(p, p.getFileName(), new Gathered.Content.Refused("text", "Text file", "it holds no sound"))).toList();
        PackingList list = Planner.plan(gathered, new ablecrate.destination.SheetCatalogue().find("files"), PackOptions.DEFAULT);
        return list.items();
    }

    /// However many lines are renewed, what depends on the list is told once: ten thousand times would freeze the window.
    @Test void aRenewalIsOneChange() throws Exception {
        Lines lines = new Lines();
        AtomicInteger changes = new AtomicInteger();
        lines.addListener((ListChangeListener<PackingItem>) _ -> changes.incrementAndGet());
        lines.renew(items(500, "a"));
        lines.renew(items(500, "a"));
        lines.renew(items(400, "b"));
        assertThat(changes).hasValue(3);
        assertThat(lines).hasSize(400);
    }

    /// Lists made of it by filter and order stay right, whichever lines were renewed.
    @Test void filteredAndSortedListsFollow() throws Exception {
        Lines lines = new Lines();
        FilteredList<PackingItem> filtered = new FilteredList<>(lines, i -> !i.source().fileName().contains("7"));
        SortedList<PackingItem> sorted = new SortedList<>(filtered, Comparator.comparing((PackingItem i) -> i.source().fileName()).reversed());
        for (String stem : List.of("a", "a", "b", "b")) {
            List<PackingItem> items = items(100, stem);
            lines.renew(items);
            assertThat(sorted).containsExactlyElementsOf(items.stream().filter(i -> !i.source().fileName().contains("7"))
                    .sorted(Comparator.comparing((PackingItem i) -> i.source().fileName()).reversed()).toList());
            for (int i = 0; i < items.size(); i++)
                assertThat(lines.place(items.get(i))).isEqualTo(i);
        }
    }

    @TempDir Path folder;

    /// Thousands of files come in a few steps, each with all that is known by then; at the end every line is there once, in the order of the folder.
    @Test void manyFilesComeInSteps() throws Exception {
        for (int i = 0; i < 3000; i++)
            Files.createFile(folder.resolve("note " + i + ".txt"));
        Deque<Runnable> later = new ArrayDeque<>();
        CrateModel crate = new CrateModel(new Background(Runnable::run, later::add), SharedCrate.CATALOGUE);
        PackingListModel model = new PackingListModel(crate);
        AtomicInteger changes = new AtomicInteger();
        model.all().addListener((ListChangeListener<PackingItem>) _ -> changes.incrementAndGet());
        crate.gather(List.of(folder));
        while (!later.isEmpty())
            later.poll().run();
        assertThat(model.all()).hasSize(3000).allMatch(i -> i.verdict() == Verdict.BLOCKED);
        assertThat(model.all()).extracting(i -> i.source().fileName()).startsWith("note 0.txt", "note 1.txt", "note 2.txt").endsWith("note 2999.txt");
        assertThat(changes.get()).isBetween(2, 12);
        assertThat(crate.readingProperty().get()).isFalse();
    }
}
