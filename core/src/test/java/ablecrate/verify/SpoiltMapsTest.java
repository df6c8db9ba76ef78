package ablecrate.verify;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.codec.SoundFile;
import ablecrate.disk.Checksums;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.MapFormat;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.planner.Planner;
import ablecrate.destination.SheetCatalogue;
import ablecrate.audio.SampleSum;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Maps and banks that are spoilt in one respect are refused for it.
class SpoiltMapsTest {
    @TempDir Path folder;
    private List<PlannedOutput> outputs;
    private PlannedMap map;
    private Map<Integer, Rendered> rendered;

    /// Two bottles of one instrument, as a bank of this format would hold them.
    private void plan(String format) throws Exception {
        Path crate = Files.createDirectories(folder.resolve("crate"));
        Sounds.wav(crate.resolve("a.wav"), 44_100, Depth.INT_16, Sounds.sine(220, 0.5, 44_100, 4000));
        Sounds.wav(crate.resolve("b.wav"), 44_100, Depth.INT_16, Sounds.sine(440, 0.5, 44_100, 3000));
        Files.writeString(crate.resolve("bottles.sfz"), "<region> sample=a.wav key=57 lokey=50 hikey=59\n<region> sample=b.wav key=69 lokey=60 hikey=72\n");
        PackingItem item = Planner.plan(Gatherer.readAll(Gatherer.find(List.of(crate), () -> false)), new SheetCatalogue().find("files"),
                PackOptions.DEFAULT.withContainer(Choice.of(format))).items().stream().filter(PackingItem::isInstruments).findFirst().orElseThrow();
        outputs = item.outputs();
        map = item.maps().getFirst();
        rendered = new HashMap<>();
        for (int i = 0; i < outputs.size(); i++) {
            double[][] audio = Sounds.readAll(outputs.get(i).source().open());
            SampleSum sum = new SampleSum(audio.length, Depth.INT_16);
            sum.add(audio, audio[0].length);
            rendered.put(i, new Rendered(sum.value(), Optional.empty(), 0, 0, List.of(), Optional.empty()));
        }
    }

    private Path bank(String format, List<Instrument> instruments, UnaryOperator<double[][]> spoil) throws Exception {
        BankFormat bank = (BankFormat) InstrumentFormats.byId(format).orElseThrow();
        Path file = folder.resolve("written." + format);
        List<SoundFile> sounds = new ArrayList<>();
        for (PlannedOutput output : outputs)
            sounds.add(output.source());
        try (OutputStream out = Files.newOutputStream(file)) {
            bank.write(out, map.about(), instruments, outputs.stream().map(o -> new BankFormat.BankSound(o.path(), o.shape(), o.metadata())).toList(),
                    i -> new ablecrate.audio.MemorySource(44_100,
                            i == 1 ? spoil.apply(Sounds.readAll(sounds.get(i).open())) : Sounds.readAll(sounds.get(i).open())));
        }
        return file;
    }

    private List<Check> failed(Path file, long crc) throws Exception {
        return MapComparison.of(file, map, outputs, new MapComparison.Made(crc, map.holdsSounds() ? rendered : Map.of()), p -> p, () -> false).orElseThrow()
                .stream()
                .filter(Outcome.Failed.class::isInstance).map(Outcome::check).toList();
    }

    private static List<Instrument> with(List<Instrument> instruments, UnaryOperator<Zone> change) {
        return instruments.stream().map(i -> i.mapZones(z -> List.of(change.apply(z)))).toList();
    }

    @ParameterizedTest @ValueSource(strings = {"sf2", "dls"}) void aBankThatIsSpoiltIsRefused(String format) throws Exception {
        plan(format);
        Path right = bank(format, map.instruments(), a -> a);
        assertThat(failed(right, Checksums.crc32c(right))).isEmpty();
        assertThat(failed(right, Checksums.crc32c(right) + 1)).containsExactly(Check.BYTES);
        Path oneStep = bank(format, map.instruments(), a -> {
            a[0][1234] += 0x1p-15;
            return a;
        });
        assertThat(failed(oneStep, Checksums.crc32c(oneStep))).as("one sample by one step").containsExactly(Check.AUDIO);
        for (UnaryOperator<Zone> change : List.<UnaryOperator<Zone>>of(z -> z.with(Parameter.KEYS, new Span(50, 58)),
                z -> z.with(Parameter.TUNING, 7.0), z -> z.with(Parameter.VELOCITIES, new Span(2, 100)), z -> z.withSample(1 - z.sample()))) {
            Path file = bank(format, with(map.instruments(), change), a -> a);
            assertThat(failed(file, Checksums.crc32c(file))).containsExactly(Check.MAP);
        }
        Instrument first = map.instruments().getFirst();
        Path more = bank(format, List.of(new Instrument(first.about(), first.program(), List.of(new ZoneGroup("", first.zones().subList(0, 1))))), a -> a);
        assertThat(failed(more, Checksums.crc32c(more))).containsExactly(Check.MAP);
        Path none = Files.writeString(folder.resolve("none." + format), "no bank");
        assertThat(failed(none, Checksums.crc32c(none))).containsExactly(Check.OPENS);
    }

    /// A map is read with its sounds where they lie before they have their names; one that names another sound is refused.
    @Test void aMapIsReadWithItsSoundsUnderTemporaryNames() throws Exception {
        plan("sfz");
        MapFormat sfz = (MapFormat) InstrumentFormats.byId("sfz").orElseThrow();
        Path there = Files.createDirectories(folder.resolve("there")), file = there.resolve("bottles.sfz");
        Map<Path, Path> lies = Map.of(there.resolve("x.wav"), outputs.get(0).source().path(), there.resolve("y.wav"), outputs.get(1).source().path());
        for (boolean isRight : new boolean[]{true, false}) {
            Files.write(file, sfz.write(map.instruments().getFirst(), isRight ? List.of("x.wav", "y.wav") : List.of("y.wav", "x.wav")));
            assertThat(MapComparison.of(file, map, outputs, new MapComparison.Made(Checksums.crc32c(file), Map.of()), p -> lies.getOrDefault(p, p), () -> false)
                    .orElseThrow().stream().filter(Outcome.Failed.class::isInstance).map(Outcome::check)).isEqualTo(isRight ? List.of() : List.of(Check.MAP));
        }
    }
}
