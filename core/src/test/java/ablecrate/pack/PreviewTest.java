package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.codec.SoundFile;
import ablecrate.library.Gatherer;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What is heard before packing is what packing gives, bit for bit.
class PreviewTest {
    @TempDir Path folder;

    @Test void aPreviewIsTheFileThatPackingWrites() throws Exception {
        int compared = 0;
        for (long seed = 0; seed < 12; seed++) {
            AnyCrate any = new AnyCrate(seed);
            Path crate = folder.resolve("crate" + seed), out = folder.resolve("out" + seed), heard = Files.createDirectories(folder.resolve("heard" + seed));
            any.sounds(crate, 6);
            PackOptions options = any.options(false);
            SoundPath path = new SoundPath();
            PackingList list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(crate), () -> false)), any.sheet(), options, Map.of(),
                    new Measurements(path),
                    () -> false, (_, _) -> {});
            new Packer(list, path, 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(out);
            for (PackingItem item : list.items())
                for (PlannedOutput output : item.outputs()) {
                    if (!Files.exists(out.resolve(output.path()))) continue;
                    SoundFile preview = Preview.write(output, path, heard, new StopSignal()).orElseThrow();
                    assertThat(Files.mismatch(preview.path(), out.resolve(output.path()))).as("%s of seed %d", output.path(), seed).isEqualTo(-1);
                    compared++;
                }
        }
        assertThat(compared).isGreaterThan(30);
    }

    @Test void aPreviewThatIsStoppedGivesNone() throws Exception {
        AnyCrate any = new AnyCrate(1);
        any.sounds(folder, 1);
        PackingList list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(folder), () -> false)),
                new ablecrate.destination.SheetCatalogue().find("files"),
                PackOptions.DEFAULT, Map.of(), new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        StopSignal stop = new StopSignal();
        stop.stop();
        assertThat(Preview.write(list.items().getFirst().outputs().getFirst(), new SoundPath(), folder, stop)).isEmpty();
    }
}
