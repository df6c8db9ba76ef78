package ablecrate.planner;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.change.Verdict;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.option.PackOptions;
import ablecrate.pack.Cards;
import ablecrate.pack.Packer;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingList;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What a sheet says of cards is obeyed before anything is written.
class CardRoomTest {
    @TempDir Path folder;

    private Path card() { return folder.resolve("card"); }

    private DestinationSheet sheet(String rules) throws Exception {
        return new SheetCatalogue().find(Files.writeString(folder.resolve("own.json"), """
                {"$schema": "destination-sheet.schema.json", "id": "own", "name": "Own", "accepts": {"containers": ["wav"]}, "layout": {"mirror": true},
                 "card": {%s}}""".formatted(rules)).toString());
    }

    /// Of 16 bit, mono.
    private void sound(String name, int frames) throws Exception {
        Files.createDirectories(folder.resolve("in").resolve(name).getParent());
        Sounds.write(folder.resolve("in").resolve(name), "wav", 44_100, Depth.INT_16, SoundMetadata.NONE, sine(440, 0.5, 44_100, frames));
    }

    private PackingList plan(String rules) throws Exception {
        DestinationSheet sheet = sheet(rules);
        return Planner.plan(Gatherer.readAll(Gatherer.find(List.of(folder.resolve("in")), () -> false)), sheet, PackOptions.DEFAULT, Map.of(),
                _ -> Optional.empty(), Cards.of(card(), sheet));
    }

    private List<String> reasons(String rules) throws Exception {
        return plan(rules).items().stream().map(i -> i.verdict() == Verdict.BLOCKED ? i.reason() : "").toList();
    }

    /// Files of 9,000, 40,000 and 9,000 bytes take one, two and one cluster of 32,768.
    @Test void capacityIsSharedOutInWholeClusters() throws Exception {
        sound("a.wav", 4_500);
        sound("b.wav", 20_000);
        sound("c.wav", 4_500);
        assertThat(reasons("\"capacityBytes\": 131072, \"clusterBytes\": 32768")).containsOnly("");
        assertThat(reasons("\"capacityBytes\": 98304, \"clusterBytes\": 32768")).containsExactly("", "",
                "it takes 33 kB of the card, and 0 kB of 98 kB are free after what is there and the lines before it; leave others out, or pack a second card");
        assertThat(reasons("\"capacityBytes\": 80000, \"clusterBytes\": 32768")).as("a smaller line behind goes").satisfiesExactly(r -> assertThat(r).isEmpty(),
                r -> assertThat(r).startsWith("it takes 66 kB of the card, and 47 kB of 80 kB are free"), r -> assertThat(r).isEmpty());
        assertThat(reasons("\"capacityBytes\": 64000")).as("without clusters bytes count").containsOnly("");
    }

    /// What a second pack renews is not counted twice; what others have put there is.
    @Test void whatIsOnTheCardCounts() throws Exception {
        sound("a.wav", 20_000);
        String rules = "\"capacityBytes\": 60000";
        new Packer(plan(rules), new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(card());
        Files.delete(card().resolve(Packer.SLIP_HTML));
        assertThat(reasons(rules)).containsExactly("");
        Files.write(card().resolve("of another.wav"), new byte[30_000]);
        assertThat(reasons(rules)).singleElement().asString().startsWith("it takes 41 kB of the card, and ");
        sound("a.wav", 28_000);
        Files.write(card().resolve("of another.wav"), new byte[10_000]);
        sound("b.wav", 10);
        assertThat(reasons(rules)).as("what is refused stays there as it was").satisfiesExactly(
                r -> assertThat(r).startsWith("it takes 57 kB of the card, and "),
                r -> assertThat(r).isEmpty());
        Files.write(card().resolve("of another.wav"), new byte[19_000]);
        assertThat(reasons(rules).getLast()).startsWith("it takes 1 kB of the card, and 0 kB of 60 kB are free");
    }

    @Test void depthLengthAndNumberAreHeld() throws Exception {
        sound("a.wav", 100);
        sound("deep/one/b.wav", 100);
        sound("deep/one/c.wav", 30_000);
        assertThat(reasons("\"foldersDeep\": 2")).containsExactly("",
                "it would lie 3 folders deep, and the destination looks no deeper than 2; do not rebuild the source's folders, or let names make none",
                "it would lie 3 folders deep, and the destination looks no deeper than 2; do not rebuild the source's folders, or let names make none");
        assertThat(reasons("\"filesInFolder\": 1")).containsExactly("", "",
                "the folder 'in/deep/one' holds 1 file and is full; sort into folders, or leave others out");
        assertThat(reasons("\"pathLength\": 12")).containsExactly("", "its path has 17 characters, the destination takes 12; take a shorter name pattern, "
                + "or do not rebuild the source's folders",
                "its path has 17 characters, the destination takes 12; take a shorter name pattern, "
                        + "or do not rebuild the source's folders");
        assertThat(reasons("\"fileBytes\": 50000")).containsExactly("", "",
                "it takes 61 kB, and a file of the card has 50 kB at most; pack it in parts, at a lower rate or depth, or in fewer channels");
        assertThat(reasons("\"foldersDeep\": 3, \"filesInFolder\": 2, \"pathLength\": 17, \"fileBytes\": 62000")).containsOnly("");
    }
}
