package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.Depth;
import ablecrate.codec.SoundFile;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/// What has to hold whatever sounds, instruments, options and destinations come together.
class WhateverComesTest {
    @TempDir Path folder;

    static IntStream seeds() { return IntStream.concat(IntStream.rangeClosed(1, 25), IntStream.of(63, 72, 89, 178, 211)); }

    private PackingSlip pack(List<Path> sources, DestinationSheet sheet, PackOptions options, Path into) throws Exception {
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(sources, () -> false));
        PackingList list = ListeningPlanner.plan(gathered, sheet, options, Map.of(), new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        return new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(into);
    }

    private static void assertNothingFailed(PackingSlip slip, Object options) {
        assertThat(slip.items()).filteredOn(i -> !Set.of("packed", "blocked", "skipped").contains(i.outcome()))
                .extracting(i -> Path.of(i.source()).getFileName() + ": " + i.error().orElse(i.outcome())).as("%s", options).isEmpty();
    }

    /// A line that the list lets go is written, read again and found as planned; a second run finds all of it done and changes nothing.
    @ParameterizedTest @MethodSource("seeds") void whatMayGoGoesAndASecondRunHasNothingToDo(int seed) throws Exception {
        AnyCrate any = new AnyCrate(seed);
        Path source = folder.resolve("in");
        List<Path> sounds = any.sounds(source, 12);
        if (seed % 2 == 0)
            for (int i = 0; i < 3; i++)
                any.sfz(source, sounds, i);
        PackOptions options = any.options(true);
        DestinationSheet files = new SheetCatalogue().find("files");
        PackingSlip first = pack(List.of(source), files, options, folder.resolve("out"));
        assertNothingFailed(first, options);
        PackingSlip second = pack(List.of(source), files, options, folder.resolve("out"));
        assertNothingFailed(second, options);
        assertThat(second.items()).as("%s", options).noneMatch(i -> i.outcome().equals("packed"));
        assertThat(sums(second)).isEqualTo(sums(first));
    }

    private static Map<String, String> sums(PackingSlip slip) {
        Map<String, String> sums = new HashMap<>();
        slip.items().forEach(i -> i.outputs().forEach(o -> sums.put(o.path(), o.xxh128())));
        slip.items().forEach(i -> i.maps().forEach(m -> sums.put(m.path(), m.xxh128())));
        return sums;
    }

    /// Whatever a destination accepts, nothing else arrives there: rates, depths, channels, lengths, names and folders are its own.
    @ParameterizedTest @MethodSource("seeds") void onlyWhatASheetAcceptsArrives(int seed) throws Exception {
        AnyCrate any = new AnyCrate(1000 + seed);
        any.sounds(folder.resolve("in"), 14);
        DestinationSheet sheet = any.sheet();
        PackOptions options = any.options(false).withNamePattern(Optional.empty());
        PackingSlip slip;
        try {
            slip = pack(List.of(folder.resolve("in")), sheet, options, folder.resolve("out"));
        } catch (OptionConflict told) {
            return;
        }
        assertNothingFailed(slip, sheet);
        Set<String> names = new HashSet<>();
        Set<String> kits = new HashSet<>();
        for (PackingSlip.Item item : slip.items())
            for (PackingSlip.Output output : item.outputs()) {
                Path path = folder.resolve("out").resolve(output.path());
                SoundFile file = Gatherer.read(new Gathered(path, path.getFileName(), new Gathered.Content.Unread())).sound().orElseThrow();
                DestinationSheet.Accepts a = sheet.accepts();
                if (!a.containers().isEmpty()) assertThat(file.formatId()).isIn(a.containers());
                if (!a.ratesHz().isEmpty()) assertThat(file.rateHz()).isIn(a.ratesHz());
                if (!a.depths().isEmpty()) assertThat(a.depthList()).contains(depth(output));
                if (!a.channels().isEmpty()) assertThat(file.channels()).isIn(a.channels());
                if (a.maxSeconds() > 0) assertThat(file.durationSeconds()).isLessThanOrEqualTo(a.maxSeconds());
                if (!sheet.keeps().loops()) assertThat(file.metadata().loops()).isEmpty();
                if (!sheet.keeps().cues()) assertThat(file.metadata().cues()).isEmpty();
                // A chunk with loops has a note as well.
                if (!sheet.keeps().mapping() && !sheet.keeps().loops()) assertThat(file.metadata().mapping().isEmpty()).isTrue();
                if (!sheet.keeps().texts()) assertThat(file.metadata().texts()).isEmpty();
                String name = path.getFileName().toString(), stem = name.substring(0, name.lastIndexOf('.'));
                if (sheet.names().maxLength() > 0) assertThat(stem).hasSizeLessThanOrEqualTo(sheet.names().maxLength());
                if (sheet.names().alphabet().equals("A-Z0-9_")) assertThat(stem).matches("[A-Z0-9_]+");
                assertThat(names.add(output.path().toLowerCase(Locale.ROOT))).as(output.path()).isTrue();
                kits.add(output.path().substring(0, Math.max(0, output.path().indexOf('/'))));
            }
        if (sheet.layout().maxFolders() > 0 && sheet.layout().folder().startsWith("KIT"))
            assertThat(kits).hasSizeLessThanOrEqualTo(sheet.layout().maxFolders());
    }

    private static Depth depth(PackingSlip.Output output) {
        return Depth.byId(output.bitDepth() + (output.sampleFormat().equals("float") ? "f" : "")).orElseThrow();
    }

    /// Any options come out of a saved job as they went in.
    @ParameterizedTest @MethodSource("seeds") void anyJobOpensAsItWasSaved(int seed) throws Exception {
        AnyCrate any = new AnyCrate(2000 + seed);
        Job job = new Job(List.of(folder), Set.of(), "files", any.options(true), Map.of(), Optional.empty());
        Jobs.save(job, folder.resolve("job.ablecrate"));
        assertThat(Jobs.open(folder.resolve("job.ablecrate"))).isEqualTo(job);
    }
}
