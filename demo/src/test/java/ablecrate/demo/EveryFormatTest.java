package ablecrate.demo;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.Depth;
import ablecrate.codec.FileKind;
import ablecrate.codec.FormatException;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.destination.SheetCatalogue;
import ablecrate.dsp.Dither;
import ablecrate.dsp.LevelMeasure;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Parameter;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Banks;
import ablecrate.option.Choice;
import ablecrate.option.Fitting;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.KeyGaps;
import ablecrate.option.KitLayout;
import ablecrate.option.LevelTarget;
import ablecrate.option.MapBy;
import ablecrate.option.Mending;
import ablecrate.option.MetadataChoice;
import ablecrate.option.PackOptions;
import ablecrate.option.Playing;
import ablecrate.option.Treatment;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.play.LoadedSound;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// The demo's instruments and sounds through every format and many options: what the list says can go, goes.
@Execution(ExecutionMode.CONCURRENT) class EveryFormatTest {
    private static final Path crate = CrateForTests.shared();
    private static final Measurements MEASUREMENTS = new Measurements(new SoundPath());
    @TempDir Path temp;

    private static PackingSlip pack(List<Path> sources, PackOptions options, Path into) throws Exception {
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(sources, () -> false));
        PackingList list = ListeningPlanner.plan(gathered, new SheetCatalogue().find("files"), options, Map.of(), MEASUREMENTS,
                () -> false,
                (_, _) -> {});
        PackingSlip slip = new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(into);
        assertThat(slip.items()).as("%s", options).allSatisfy(i -> assertThat(i.outcome()).as(i.source() + ": " + i.error()).isIn("packed", "blocked"));
        return slip;
    }

    private static PackOptions to(String container) {
        return PackOptions.DEFAULT.withContainer(Choice.of(container))
                .withInstruments(InstrumentOptions.DEFAULT.withPlaying(Playing.USUAL.withDefaults(false)));
    }

    private static List<Path> folders(String... names) { return java.util.stream.Stream.of(names).map(crate::resolve).toList(); }

    /// Marimba, organ, harp and kitchen into each format and on to each other: the roots that sound stay, whatever lies between.
    @ParameterizedTest @CsvSource({"sfz,sf2", "sfz,dls", "sf2,sfz", "sf2,dls", "dls,sfz", "dls,sf2", "wav,sfz",
        "aiff,sf2"}) void instrumentsGoFromFormatToFormat(
                String first, String second) throws Exception {
        PackingSlip once = pack(folders("Instruments", "Bottle Organ", "Wind-up Harp", "Tin Kitchen"), to(first), temp.resolve("first"));
        PackingSlip twice = pack(List.of(temp.resolve("first")), to(second), temp.resolve("second"));
        assertThat(once.items()).noneMatch(i -> i.outcome().equals("blocked"));
        assertThat(twice.items()).noneMatch(i -> i.outcome().equals("blocked"));
        if (once.items().stream().allMatch(i -> i.maps().isEmpty())) return;
        assertThat(roots(twice, second, temp.resolve("second"))).isEqualTo(roots(once, first, temp.resolve("first")));
    }

    /// Keys that sound their sample's own pitch, over all instruments; turns and release sounds that a format has not are no keys less.
    private static Set<Integer> roots(PackingSlip slip, String format, Path folder) throws Exception {
        Set<Integer> roots = new TreeSet<>();
        for (PackingSlip.Item item : slip.items())
            for (PackingSlip.MapFile map : item.maps()) {
                InstrumentFile file = InstrumentFormats.byId(format).orElseThrow().read(folder.resolve(map.path()));
                file.instruments().forEach(i -> i.zones().forEach(z -> roots.add(z.get(Parameter.ROOT_KEY))));
            }
        return roots;
    }

    /// A stem that does not say its delay is trimmed to the same start as those that do: laid over the original, each begins on the same frame.
    @Test void mailedStemsKeepOneStart() throws Exception {
        Path mailed = Files.createDirectories(temp.resolve("mailed"));
        for (String name : List.of("overture glass.mp3", "overture harp.flac"))
            Files.copy(crate.resolve("Overture, as mailed").resolve(name), mailed.resolve(name));
        byte[] bytes = Files.readAllBytes(crate.resolve("Overture, as mailed/overture bottles.m4a"));
        int editList = new String(bytes, StandardCharsets.ISO_8859_1).indexOf("edts");
        System.arraycopy("free".getBytes(StandardCharsets.ISO_8859_1), 0, bytes, editList, 4);
        Files.write(mailed.resolve("overture bottles.m4a"), bytes);
        PackOptions options = PackOptions.DEFAULT.withContainer(Choice.of("wav")).withMending(Mending.NONE.withLikelyDelay(true))
                .withTreatment(Treatment.NONE.withTrim(Optional.of(-60.0)));
        PackingSlip slip = pack(List.of(mailed), options, temp.resolve("out"));
        assertThat(slip.items()).hasSize(3).allSatisfy(i -> {
            String name = Path.of(i.source()).getFileName().toString().replaceAll("[.].*", "");
            Path original = crate.resolve("Overture Stems").resolve(name + (name.endsWith("bottles") ? ".aif" : ".wav"));
            assertThat(lag(read(original), read(temp.resolve("out").resolve(i.outputs().getFirst().path())))).as(name).isBetween(-1, 1);
        });
    }

    private static double[] read(Path file) throws IOException {
        try {
            return LoadedSound.of(((FileKind.Sound) FileKind.of(file)).read(file).open()).planes()[0];
        } catch (FormatException e) {
            throw new IOException(e);
        }
    }

    /// By how many frames a sound starts later than another: where the sum of products is greatest.
    private static int lag(double[] a, double[] b) {
        int best = 0;
        double most = 0;
        for (int lag = -1500; lag <= 1500; lag++) {
            double sum = 0;
            for (int n = 2000; n < 120_000; n += 3)
                sum += a[n + lag] * b[n];
            if (sum > most) {
                most = sum;
                best = lag;
            }
        }
        return best;
    }

    /// Whatever is asked for together: a line that is not blocked is packed, read again and found as planned.
    @ParameterizedTest @ValueSource(ints = {1, 2, 3, 4}) void noChoiceOfOptionsMakesALineFail(int seed) throws Exception {
        pack(folders("Instruments", "Bottle Organ", "Wind-up Harp", "Tin Kitchen", "Odds and Ends"), random(new Random(seed)), temp.resolve("out"));
    }

    private static PackOptions random(Random r) {
        PackOptions o = PackOptions.DEFAULT.withContainer(Choice.of(one(r, "wav", "aiff", "flac", "sfz", "sf2", "dls", "sfz")))
                .withRate(one(r, Choice.keep(), Choice.of(48_000), Choice.of(32_000), Choice.of(44_100)))
                .withDepth(one(r, Choice.keep(), Choice.of(Depth.INT_16), Choice.of(Depth.INT_24), Choice.of(Depth.FLOAT_32)))
                .withChannels(one(r, Optional.empty(), Optional.of(ChannelChoice.MONO), Optional.of(ChannelChoice.STEREO), Optional.of(ChannelChoice.SPLIT)))
                .withDither(one(r, Dither.values())).withMirror(Optional.of(r.nextBoolean()))
                .withMending(Mending.NONE.withLooking(r.nextBoolean()).withMending(r.nextBoolean()).withLikelyDelay(r.nextBoolean())
                        .withDamageFailing(r.nextBoolean()))
                .withMetadata(
                        new MetadataChoice(new Keeps(r.nextBoolean(), r.nextBoolean(), r.nextBoolean(), r.nextBoolean(), r.nextBoolean()), r.nextBoolean(),
                                r.nextBoolean()));
        if (r.nextBoolean()) o = o.withNamePattern(Optional.of("(number...) (name)"));
        if (r.nextBoolean())
            o = o.withTreatment(
                    o.treatment().withLevel(Optional.of(new LevelTarget(one(r, LevelMeasure.PEAK, LevelMeasure.TRUE_PEAK, LevelMeasure.LUFS_M), -14)))
                            .withTogether(r.nextBoolean()).withCeiling(Optional.of(-1.0)).withTrim(r.nextBoolean() ? Optional.of(-60.0) : Optional.empty())
                            .withLoopCrossfade(r.nextInt(3) * 10.0).withOffsetRemoved(r.nextBoolean()));
        return o.withInstruments(new InstrumentOptions(one(r, MapBy.values()), InstrumentOptions.DEFAULT.names(), one(r, KeyGaps.values()),
                new KitLayout(30 + r.nextInt(60), 1 + r.nextInt(3), r.nextBoolean()),
                one(r, Banks.values()), Playing.USUAL.withDefaults(r.nextBoolean()), Fitting.DEFAULT, List.of()));
    }

    @SafeVarargs private static <T> T one(Random r, T... of) { return of[r.nextInt(of.length)]; }
}
