package ablecrate.pack;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.ChangeEntry;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.dsp.LevelMeasure;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Chance;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.ExistingFiles;
import ablecrate.option.ItemEdit;
import ablecrate.option.Kits;
import ablecrate.option.LevelTarget;
import ablecrate.option.Limits;
import ablecrate.option.Mending;
import ablecrate.option.Overs;
import ablecrate.option.PackOptions;
import ablecrate.option.PadOrder;
import ablecrate.option.Placing;
import ablecrate.option.Treatment;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedMap;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/// Runs into a folder that holds results already, and what turns out only while a run goes on.
class RunsThatGoOnTest {
    @TempDir Path temp;
    private Path crate, out;

    @BeforeEach void makeCrate() throws Exception {
        crate = Files.createDirectories(temp.resolve("crate"));
        out = temp.resolve("out");
        for (int i = 1; i <= 3; i++)
            Sounds.wav(crate.resolve("reed " + i + ".wav"), 44_100, Depth.INT_16, sine(200 * i, 0.5, 44_100, 5000));
    }

    private PackingList plan(Path sources, String destination, PackOptions options, Map<Path, ItemEdit> edits) throws Exception {
        DestinationSheet sheet = new SheetCatalogue().find(destination);
        return ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(sources), () -> false)), sheet, options, edits, new Measurements(new SoundPath()),
                Cards.of(out, sheet), () -> false, (_, _) -> {});
    }

    private PackingSlip pack(PackingList list) throws Exception {
        return new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(out);
    }

    private PackingSlip pack(PackOptions options) throws Exception { return pack(plan(crate, "session", options, Map.of())); }

    private static PackOptions existing(ExistingFiles existing, boolean verifies) {
        return PackOptions.DEFAULT.withPlacing(Placing.USUAL.withExisting(existing).withVerifying(verifies));
    }

    private static void flip(Path file, boolean keepsTime) throws Exception {
        FileTime time = Files.getLastModifiedTime(file);
        byte[] bytes = Files.readAllBytes(file);
        bytes[bytes.length / 2] ^= 0x40;
        Files.write(file, bytes);
        Files.setLastModifiedTime(file, keepsTime ? time : FileTime.fromMillis(time.toMillis() + 2000));
    }

    private static List<String> states(PackingSlip slip) {
        return slip.ofThisRun().stream().flatMap(i -> i.outputs().stream()).map(PackingSlip.Output::state).toList();
    }

    /// A file that rotted with its size and time kept is found where it is asked for, told, and written anew.
    @Test void aDamagedResultIsWrittenAnew() throws Exception {
        pack(PackOptions.DEFAULT);
        Path file = out.resolve("audio/reed 2.wav");
        byte[] whole = Files.readAllBytes(file);
        flip(file, true);
        assertThat(Forecast.of(plan(crate, "session", existing(ExistingFiles.SKIP, true), Map.of()), out)).containsExactly(Forecast.Fate.SAME,
                Forecast.Fate.DAMAGED, Forecast.Fate.SAME);
        PackingSlip slip = pack(existing(ExistingFiles.SKIP, true));
        assertThat(states(slip)).containsExactly("skipped", "renewed", "skipped");
        assertThat(slip.items().get(1).changes()).anyMatch(c -> c.reason().contains("was damaged since it was packed"));
        assertThat(file).hasBinaryContent(whole);
    }

    /// A size that is not what the slip holds needs no asking.
    @Test void aFileThatWasCutOffIsFoundByItsSize() throws Exception {
        pack(PackOptions.DEFAULT);
        Path file = out.resolve("audio/reed 2.wav");
        byte[] whole = Files.readAllBytes(file);
        Files.write(file, java.util.Arrays.copyOf(whole, whole.length / 2));
        assertThat(states(pack(PackOptions.DEFAULT))).containsExactly("skipped", "renewed", "skipped");
        assertThat(file).hasBinaryContent(whole);
    }

    /// What somebody changed is nobody's to write over, unless it is said.
    @ParameterizedTest @EnumSource(value = ExistingFiles.class, names = {"SKIP", "UPDATE", "REPLACE"}) void anEditedResultIsLeftUnlessItIsToBeReplaced(
            ExistingFiles existing) throws Exception {
        pack(PackOptions.DEFAULT);
        Path file = out.resolve("audio/reed 2.wav");
        flip(file, false);
        byte[] edited = Files.readAllBytes(file);
        PackingSlip slip = pack(existing(existing, false));
        if (existing == ExistingFiles.REPLACE) {
            assertThat(states(slip)).containsOnly("replaced");
            return;
        }
        assertThat(states(slip)).containsExactly("skipped", "left", "skipped");
        assertThat(slip.outcomes()).containsEntry("left", 1);
        assertThat(slip.items().get(1).error().orElseThrow()).contains("was changed since it was packed");
        assertThat(file).hasBinaryContent(edited);
        assertThat(states(pack(existing(existing, false)))).as("the slip still knows what it was").containsExactly("skipped", "left", "skipped");
    }

    @Test void aRunThatUpdatesWritesWhatIsNewOrChanged() throws Exception {
        pack(PackOptions.DEFAULT);
        Sounds.wav(crate.resolve("reed 2.wav"), 44_100, Depth.INT_16, sine(300, 0.4, 44_100, 5100));
        Sounds.wav(crate.resolve("reed 4.wav"), 44_100, Depth.INT_16, sine(300, 0.4, 44_100, 500));
        PackOptions update = existing(ExistingFiles.UPDATE, false);
        assertThat(Forecast.of(plan(crate, "session", update, Map.of()), out)).containsExactly(Forecast.Fate.SAME, Forecast.Fate.OUTDATED, Forecast.Fate.SAME,
                Forecast.Fate.NEW);
        FileTime untouched = Files.getLastModifiedTime(out.resolve("audio/reed 1.wav"));
        assertThat(states(pack(update))).containsExactly("skipped", "updated", "skipped", "written");
        assertThat(Files.getLastModifiedTime(out.resolve("audio/reed 1.wav"))).isEqualTo(untouched);
        assertThat(SoundFormats.byId("wav").orElseThrow().read(out.resolve("audio/reed 2.wav")).frames()).isEqualTo((5100 * 160 + 146) / 147);
    }

    /// The slip of a folder knows what earlier runs left there, until it is gone.
    @Test void theSlipKnowsAllOfTheFolder() throws Exception {
        pack(PackOptions.DEFAULT);
        Path more = Files.createDirectories(temp.resolve("more"));
        Sounds.wav(more.resolve("bell.wav"), 44_100, Depth.INT_16, sine(900, 0.5, 44_100, 500));
        Files.delete(out.resolve("audio/reed 3.wav"));
        PackingSlip slip = pack(plan(more, "session", PackOptions.DEFAULT, Map.of()));
        assertThat(slip.ofThisRun()).extracting(i -> Path.of(i.source()).getFileName().toString()).containsExactly("bell.wav");
        assertThat(slip.items()).extracting(i -> Path.of(i.source()).getFileName().toString()).containsExactly("bell.wav", "reed 1.wav", "reed 2.wav");
        assertThat(slip.outcomes()).isEqualTo(Map.of("packed", 1));
        assertThat(states(pack(PackOptions.DEFAULT))).containsExactly("skipped", "skipped", "written");
    }

    /// Kits go on from those that are there, and what lies in one stays in it.
    @Test void kitsGoOnFromThoseThatAreThere() throws Exception {
        Path more = Files.createDirectories(temp.resolve("more"));
        for (int i = 1; i <= 11; i++)
            Sounds.wav(more.resolve("hit " + i + ".wav"), 44_100, Depth.INT_16, sine(100 * i, 0.5, 44_100, 2000 - 100 * i));
        assertThat(paths(pack(plan(crate, "drum-pads", PackOptions.DEFAULT, Map.of())))).containsExactly("001-CRATE/1-REED_1.wav", "001-CRATE/2-REED_2.wav",
                "001-CRATE/3-REED_3.wav");
        List<String> second = paths(pack(plan(more, "drum-pads", PackOptions.DEFAULT, Map.of())));
        assertThat(second).startsWith("002-MORE/1-HIT_1.wav").endsWith("003-MORE/1-HIT_10.wav", "003-MORE/2-HIT_11.wav");
        PackingSlip again = pack(plan(more, "drum-pads", PackOptions.DEFAULT, Map.of()));
        assertThat(paths(again)).isEqualTo(second);
        assertThat(again.outcomes()).isEqualTo(Map.of("skipped", 11));
        out = temp.resolve("other");
        Kits said = new Kits(OptionalInt.of(40), List.of("Bells"), PadOrder.LENGTH, Map.of(2, "hit 1", 12, "hit 2"));
        List<String> third = paths(pack(plan(more, "drum-pads", PackOptions.DEFAULT.withPlacing(Placing.USUAL.withKits(said)), Map.of())));
        assertThat(third).contains("040-BELLS/2-HIT_1.wav", "040-BELLS/1-HIT_11.wav", "040-BELLS/3-HIT_10.wav").hasSize(11);
        assertThat(third.stream().filter(p -> p.startsWith("041-MORE"))).hasSize(2);
    }

    private static List<String> paths(PackingSlip slip) {
        return slip.ofThisRun().stream().flatMap(i -> i.outputs().stream()).map(PackingSlip.Output::path).toList();
    }

    @Test void aFolderThatIsFullAndHasNoNumberBlocks() throws Exception {
        DestinationSheet sheet = SheetCatalogue.read(
                "{\"id\":\"box\",\"name\":\"Box\",\"accepts\":{},\"layout\":{\"folder\":\"(folder)\",\"soundsPerFolder\":2}}", "box");
        PackingList list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(crate), () -> false)), sheet, PackOptions.DEFAULT, Map.of(),
                new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        assertThat(list.items()).extracting(i -> i.verdict().id()).containsExactly("kept", "kept", "blocked");
        assertThat(list.items().getLast().reason()).contains("holds 2 sounds at this destination and is full");
    }

    /// Samples beyond full scale: limited, lowered alone or with their folder, or cut off; told with the number, never silent.
    @ParameterizedTest @EnumSource(Overs.class) void nothingClipsUntold(Overs overs) throws Exception {
        Sounds.wav(crate.resolve("loud.wav"), 44_100, Depth.FLOAT_32, sine(300, 1.6, 44_100, 5000));
        PackOptions options = PackOptions.DEFAULT.withDepth(Choice.of(Depth.INT_24)).withTreatment(Treatment.NONE.withLimits(Limits.NONE.withOvers(overs)));
        PackingSlip slip = pack(plan(crate, "files", options, Map.of()));
        assertThat(slip.isAllPacked()).isTrue();
        PackingSlip.Item loud = slip.items().getFirst();
        assertThat(loud.source()).endsWith("loud.wav");
        double[] y = read("loud.wav")[0], reed = read("reed 1.wav")[0];
        double peak = java.util.Arrays.stream(y).map(Math::abs).max().orElseThrow(), softer = java.util.Arrays.stream(reed).map(Math::abs).max().orElseThrow();
        assertThat(peak).isBetween(0.99, 1.0);
        long atTheEnd = IntStream.range(0, y.length).filter(i -> Math.abs(y[i]) > 1 - 1e-6).count();
        assertThat(softer).isCloseTo(overs == Overs.LOWER_TOGETHER ? 0.5 / 1.6 : 0.5, within(0.002));
        assertThat(loud.changes()).anySatisfy(c -> {
            assertThat(c.property()).isEqualTo("level");
            assertThat(c.verdict()).isEqualTo(overs == Overs.CLIP ? "reduced" : overs == Overs.LIMIT ? "adjusted" : "converted");
            assertThat(overs == Overs.LIMIT || overs == Overs.CLIP ? c.beforeValue().orElseThrow() : 4.08).isCloseTo(20 * Math.log10(1.6),
                    within(0.01));
        });
        if (overs == Overs.CLIP) assertThat(atTheEnd).isGreaterThan(2000);
        PackingSlip again = pack(plan(crate, "files", options, Map.of()));
        assertThat(again.items().getFirst().changes()).as("told again where it is skipped").anyMatch(c -> c.property().equals("level"));
    }

    private double[][] read(String name) throws Exception { return Sounds.readAll(SoundFormats.byId("wav").orElseThrow().read(out.resolve(name)).open()); }

    /// A frame that is no number costs that frame, and is told; JSON holds numbers alone.
    @Test void aFrameThatIsNoNumberCostsItself() throws Exception {
        double[] x = sine(300, 0.5, 48_000, 20_000), spoilt = x.clone();
        spoilt[7_000] = Double.NaN;
        spoilt[9_000] = Double.POSITIVE_INFINITY;
        Sounds.wav(crate.resolve("torn.wav"), 48_000, Depth.FLOAT_32, spoilt);
        PackOptions checked = PackOptions.DEFAULT.withMending(Mending.NONE.withLooking(true));
        PackingList list = plan(crate, "session", checked, Map.of());
        assertThat(list.items().getLast().changes())
                .anyMatch(c -> c.before().contains("2 frame that is no numbers") || c.reason().contains("frame that is no number at"));
        assertThat(list.items().getLast().isDamaged()).isTrue();
        PackingSlip slip = pack(plan(crate, "session", PackOptions.DEFAULT, Map.of()));
        double[] y = read("audio/torn.wav")[0];
        for (int n = 0; n < x.length; n++)
            if (n != 7_000 && n != 9_000) assertThat(y[n]).isCloseTo(x[n], within(4e-7));
        assertThat(slip.items().getLast().changes()).anyMatch(c -> c.reason().startsWith("2 frames of the source are no number"));
        assertThat(slip.items().getLast().verdict()).isEqualTo("reduced");
        assertThat(Files.readString(out.resolve(Packer.SLIP_JSON))).doesNotContain("NaN", "Infinity");
    }

    /// What is mended is rounded; all other frames stay to the bit, at the same depth without dither.
    @Test void framesOutsideOfClicksStayToTheBit() throws Exception {
        double[] left = sine(300, 0.4, 44_100, 30_000), right = sine(310, 0.4, 44_100, 30_000);
        for (int i = 0; i < 6; i++)
            left[15_000 + i] = 0.9;
        Path file = Sounds.wav(crate.resolve("tick.wav"), 44_100, Depth.INT_24, left, right);
        PackOptions mended = PackOptions.DEFAULT.withMending(Mending.NONE.withMending(true));
        PackingSlip slip = pack(plan(file, "files", mended, Map.of()));
        double[][] before = Sounds.readAll(SoundFormats.byId("wav").orElseThrow().read(file).open()), after = read("tick.wav");
        assertThat(after[1]).as("the other side has no click").isEqualTo(before[1]);
        for (int n = 0; n < 30_000; n++)
            if (n < 15_000 || n >= 15_006) assertThat(after[0][n]).as("frame " + n).isEqualTo(before[0][n]);
        for (int n = 15_000; n < 15_006; n++)
            assertThat(after[0][n]).isCloseTo(0.4 * Math.sin(2 * Math.PI * 300 * n / 44_100), within(0.002));
        assertThat(slip.items().getFirst().outputs().getFirst().checks()).anyMatch(c -> c.name().equals("clicks") && c.measured().startsWith("1 of 1"));
    }

    /// The level that the list says is the file's, by a meter of its own, where a limiter has to work for it, or cannot.
    @Test void theListSaysTheLevelThatIsReached() throws Exception {
        Random random = new Random(5);
        for (int i = 0; i < 6; i++) {
            double decay = 3 + 12 * i, noise = 0.1 * i;
            Sounds.wav(crate.resolve("hit " + i + ".wav"), 44_100, Depth.INT_24, Sounds.signal(20_000,
                    n -> 0.3 * Math.exp(-decay * n / 44_100) * ((1 - noise) * Math.sin(0.02 * n) + noise * random.nextGaussian() * 0.5)));
        }
        PackOptions options = PackOptions.DEFAULT.withTreatment(Treatment.NONE.withLevel(Optional.of(new LevelTarget(LevelMeasure.LUFS_M, -12)))
                .withCeiling(Optional.of(-1.0)).withFadeOut(Treatment.NONE.fadeOut().withMs(200)));
        PackingList list = plan(crate, "files", options, Map.of());
        PackingSlip slip = pack(list);
        int missed = 0;
        for (PackingSlip.Item item : slip.items()) {
            double[][] y = read(Path.of(item.source()).getFileName().toString());
            var meter = new ablecrate.dsp.LevelMeter(44_100, 1);
            meter.add(y, 0, y[0].length);
            double reached = meter.finish().loudnessMomentaryMaxLufs().orElseThrow();
            ChangeEntry level = item.changes().stream().filter(c -> c.property().equals("level")).findFirst().orElseThrow();
            assertThat(level.afterValue().orElseThrow()).isCloseTo(reached, within(0.1));
            boolean isMissed = Math.abs(reached + 12) > 0.1;
            assertThat(item.misses()).hasSize(isMissed ? 1 : 0);
            if (isMissed) assertThat(item.misses().getFirst().reached().orElseThrow()).isCloseTo(reached, within(0.01));
            missed += isMissed ? 1 : 0;
        }
        assertThat(missed).isBetween(1, slip.items().size() - 1);
        assertThat(slip.misses()).isEqualTo(missed);
    }

    /// Settings of their own hold for the sounds that were chosen, and for them alone.
    @Test void chosenSoundsHaveSettingsOfTheirOwn() throws Exception {
        Treatment own = Treatment.NONE.withLevel(Optional.of(new LevelTarget(LevelMeasure.PEAK, -20)));
        PackingList list = plan(crate, "files", PackOptions.DEFAULT, Map.of(crate.resolve("reed 2.wav"), ItemEdit.NONE.treated(Treatment.NONE, _ -> own)));
        pack(list);
        assertThat(java.util.Arrays.stream(read("reed 2.wav")[0]).max().orElseThrow()).isCloseTo(0.1, within(1e-3));
        assertThat(Files.mismatch(out.resolve("reed 1.wav"), crate.resolve("reed 1.wav"))).isEqualTo(-1);
    }

    /// Loudness that a broadcast wave of version 2 states is the result's. Source of the fields: EBU Tech 3285, version 2.
    @Test void statedLoudnessIsThatOfTheResult() throws Exception {
        Broadcast stated = new Broadcast("orchard", "", "", "2026-11-27", "10:00:00", 0, 2, "", Optional.of(new Broadcast.StatedLoudness(-99, 9, -9, -9, -9)),
                "");
        Path file = Sounds.write(temp.resolve("air.wav"), "wav", 48_000, Depth.INT_24, SoundMetadata.NONE.withBroadcast(Optional.of(stated)),
                sine(1000, Math.pow(10, -23 / 20.0), 48_000, 5 * 48_000), sine(1000, Math.pow(10, -23 / 20.0), 48_000, 5 * 48_000));
        pack(plan(file, "files", PackOptions.DEFAULT.withRate(Choice.of(44_100)), Map.of()));
        SoundFile result = SoundFormats.byId("wav").orElseThrow().read(out.resolve("air.wav"));
        // EBU Tech 3341, case 1: a stereo sine of 1 kHz at −23 dBFS has −23 LUFS.
        Broadcast.StatedLoudness loudness = result.metadata().broadcast().orElseThrow().loudness().orElseThrow();
        assertThat(loudness.integratedLufs()).isCloseTo(-23, within(0.1));
        assertThat(loudness.maxShortTermLufs()).isCloseTo(-23, within(0.1));
        assertThat(loudness.maxTruePeakDbtp()).isCloseTo(-23, within(0.1));
    }

    /// Silence that is exactly zero has no crossing to be cut at, and goes as well.
    @Test void silenceOfZerosIsCutOff() throws Exception {
        double[] x = new double[40_000];
        System.arraycopy(sine(441, 0.5, 44_100, 10_000), 0, x, 5_000, 10_000);
        Path file = Sounds.wav(temp.resolve("padded.wav"), 44_100, Depth.INT_16, x);
        PackOptions trimmed = PackOptions.DEFAULT.withTreatment(Treatment.NONE.withTrim(Optional.of(-60.0)));
        FrameRange part = plan(file, "files", trimmed, Map.of()).items().getFirst().outputs().getFirst().sourceChain().part();
        assertThat(part.start()).isBetween(4_500L, 5_001L);
        assertThat(part.end()).isBetween(15_000L, 15_600L);
    }

    /// An instrument whose map does not read back as planned publishes none of its sounds.
    @Test void aMapThatFailsTakesItsSoundsWithIt() throws Exception {
        Files.writeString(crate.resolve("reeds.sfz"), "<region> sample=reed 1.wav key=60\n<region> sample=reed 2.wav key=62\n");
        PackingList right = plan(crate, "files", PackOptions.DEFAULT.withContainer(Choice.of("sfz")), Map.of());
        PackingItem item = right.items().stream().filter(i -> i.maps().size() == 1 && i.outputs().size() == 2).findFirst().orElseThrow();
        PlannedMap map = item.maps().getFirst();
        // What our SFZ does not say: chances finer than a millionth.
        List<Instrument> wrong = map.instruments().stream().map(i -> i.mapZones(z -> List.of(z.with(Parameter.CHANCE, new Chance(0.12345678, 1))))).toList();
        PackingItem spoilt = new PackingItem(item.source(), item.verdict(), item.changes(), item.outputs(), List.of(), true, item.parts(),
                List.of(new PlannedMap(map.path(), map.formatId(), map.about(), wrong, Optional.empty())), List.of());
        PackingSlip slip = pack(new PackingList(right.destination(), right.options(), List.of(spoilt)));
        assertThat(slip.items().getFirst().outcome()).isEqualTo("failed");
        assertThat(slip.items().getFirst().error().orElseThrow()).contains("instruments: found random choice", "in zone 1");
        try (var files = Files.walk(out)) {
            assertThat(files.filter(Files::isRegularFile).map(f -> f.getFileName().toString())).containsExactlyInAnyOrder(Packer.SLIP_JSON, Packer.SLIP_HTML);
        }
    }

    /// 24 bits that hold 16 go to 16 as they are; a finer sample, even at the end, is rounded with dither. Both hold on in a second run.
    @Test void samplesThatAreCoarserThanTheirDepthAreWrittenExactly() throws Exception {
        Path deep = Files.createDirectories(temp.resolve("deep"));
        double[] coarse = Arrays.stream(sine(300, 0.5, 44_100, 30_000)).map(x -> Math.rint(x * 32_768) / 32_768 + 0.0).toArray(), fine = coarse.clone();
        Sounds.wav(deep.resolve("coarse.wav"), 44_100, Depth.INT_24, coarse);
        fine[29_999] += 0x1p-20;
        Sounds.wav(deep.resolve("fine.wav"), 44_100, Depth.INT_24, fine);
        PackOptions options = PackOptions.DEFAULT.withDepth(Choice.of(Depth.INT_16));
        PackingSlip first = pack(plan(deep, "files", options, Map.of())), second = pack(plan(deep, "files", options, Map.of()));
        for (PackingSlip slip : List.of(first, second)) {
            assertThat(slip.items().getFirst().changes()).filteredOn(c -> c.property().equals("depth")).singleElement()
                    .satisfies(c -> assertThat(c.reason()).contains("need no more bits than 16", "without dither"));
            assertThat(slip.items().getLast().changes()).filteredOn(c -> c.property().equals("depth")).singleElement()
                    .satisfies(c -> assertThat(c.reason()).contains("dither"));
        }
        assertThat(read("coarse.wav")[0]).isEqualTo(coarse);
        assertThat(read("fine.wav")[0]).isNotEqualTo(coarse);
    }

    /// A source that somebody writes to while it is read, or has written to since it was gathered, is told and not packed.
    @Test void aSourceThatChangesIsToldAndNotPacked() throws Exception {
        PackingList list = plan(crate, "session", PackOptions.DEFAULT, Map.of());
        Path grown = crate.resolve("reed 2.wav");
        Files.write(grown, new byte[100], StandardOpenOption.APPEND);
        PackingSlip slip = pack(list);
        assertThat(slip.items().get(1).outcome()).isEqualTo("failed");
        assertThat(slip.items().get(1).error().orElseThrow()).contains("changed since it was gathered");
        assertThat(out.resolve("audio/reed 2.wav")).doesNotExist();
        SoundFile file = SoundFormats.byId("wav").orElseThrow().read(crate.resolve("reed 1.wav"));
        SourceWatch watch = SourceWatch.on(file);
        watch.check();
        Files.setLastModifiedTime(file.path(), FileTime.fromMillis(1000));
        assertThatThrownBy(watch::check).isInstanceOf(IOException.class).hasMessageContaining("while it was read");
    }
}
