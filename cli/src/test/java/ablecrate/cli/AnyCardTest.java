package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.library.Gatherer;
import ablecrate.option.PackOptions;
import ablecrate.pack.AnyCrate;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.Packer;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import ablecrate.standins.Device;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/// Whatever sounds, instruments and options come together, a device loads all of what is packed for it. Among the seeds are those by which faults were found.
class AnyCardTest {
    @TempDir Path folder;

    static Stream<Arguments> cards() {
        return IntStream.of(7, 9, 67).boxed().flatMap(seed -> Device.ALL.stream().map(device -> Arguments.of(seed, device.id())));
    }

    @ParameterizedTest @MethodSource("cards") void whatIsPackedLoads(int seed, String id) throws Exception {
        AnyCrate any = new AnyCrate(50_000 + seed);
        Path in = folder.resolve("in"), out = folder.resolve("out");
        List<Path> sounds = any.sounds(in, 14);
        for (int i = 0; i < 3; i++)
            any.sfz(in, sounds, i);
        PackOptions chosen = any.options(false), options = seed % 3 == 0 ? PackOptions.DEFAULT : withoutFolders(new SheetCatalogue().find(id), chosen);
        PackingList list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(in), () -> false)), new SheetCatalogue().find(id), options, Map.of(),
                new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        PackingSlip slip = new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(out);
        assertThat(slip.items()).extracting(PackingSlip.Item::outcome).as("%s", options).isSubsetOf(Set.of("packed", "blocked"));
        if (slip.items().stream().noneMatch(i -> i.outcome().equals("packed"))) return;
        Device.Loaded loaded = Device.byId(id).orElseThrow().load(out);
        assertThat(loaded.refusals()).as("%s", options).isEmpty();
        assertThat(loaded.presets()).isNotEmpty();
    }

    /// Folders are asked for nowhere where there are none: that is refused as a whole.
    private static PackOptions withoutFolders(DestinationSheet sheet, PackOptions options) {
        return sheet.layout().oneFolder() ? options.withMirror(Optional.empty()) : options;
    }
}
