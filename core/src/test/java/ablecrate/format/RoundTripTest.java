package ablecrate.format;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/// Whatever a format declares to carry comes back as declared, and nothing else comes.
class RoundTripTest {
    @TempDir Path folder;

    static Stream<InstrumentFormat> formats() { return InstrumentFormats.ALL.stream(); }

    @ParameterizedTest @MethodSource("formats") void whatAFormatDeclaresComesBack(InstrumentFormat format) throws Exception {
        for (int seed = 0; seed < 60; seed++) {
            Instrument made = Instruments.random(new Random(seed), 3, 4), wanted = made.mapZones(z -> List.of(format.capabilities().fit(z)));
            InstrumentFile read = format.read(write(format, wanted, "bank" + seed));
            assertThat(read.instruments()).hasSize(1);
            Instruments.assertPlaysAs(read.instruments().getFirst(), wanted);
            assertThat(read.samples()).hasSizeLessThanOrEqualTo(format.zonesInSounds() ? wanted.zones().size() : 3).allMatch(Sample.Found.class::isInstance);
            for (About.Field field : format.capabilities().about())
                assertThat(field.of(read.instruments().getFirst().about())).as(field.label()).isEqualTo(field.of(made.about()));
            if (format.capabilities().names())
                assertThat(read.instruments().getFirst().groups().stream().map(ZoneGroup::name))
                        .isEqualTo(made.groups().stream().map(ZoneGroup::name).toList());
        }
    }

    /// What was fitted once is not moved again.
    @ParameterizedTest @MethodSource("formats") void fittingTwiceIsFittingOnce(InstrumentFormat format) {
        for (int seed = 0; seed < 200; seed++)
            for (Zone zone : Instruments.random(new Random(seed), 3, 4).zones()) {
                Zone once = format.capabilities().fit(zone), twice = format.capabilities().fit(once);
                assertThat(twice.differences(once).stream()
                        .filter(p -> !(twice.get(p) instanceof Double x) || Math.abs(x - (Double) once.get(p)) > 1e-9 * Math.max(1, Math.abs(x))))
                        .as(once.toString()).isEmpty();
            }
    }

    private Path write(InstrumentFormat format, Instrument instrument, String name) throws IOException {
        // Samples in the order of their first use, as readers number them.
        List<Integer> order = instrument.zones().stream().map(Zone::sample).distinct().toList();
        double[][] sound = {Sounds.sine(440, 0.5, 44_100, Instruments.FRAMES)}, stereo = {sound[0], Sounds.sine(330, 0.25, 44_100, Instruments.FRAMES)};
        List<double[][]> sounds = List.of(sound, stereo, sound);
        return switch (format) {
            case BankFormat bank -> Instruments.bank(folder.resolve(name), bank, instrument.about(), List.of(renumbered(instrument, order)),
                    order.stream().map(sounds::get).toList(), Collections.max(format.capabilities().sounds().orElseThrow().depths()));
            case MapFormat map when map.zonesInSounds() -> {
                List<String> names = new ArrayList<>();
                for (Zone zone : instrument.zones()) {
                    names.add(name + " " + names.size() + ".wav");
                    WholeSound.write(folder.resolve(names.getLast()), SoundFormats.written("wav").orElseThrow(), 44_100, Depth.INT_24,
                            OwnMaps.metadata(zone, SoundMetadata.NONE), List.of(), sounds.get(zone.sample()));
                }
                Iterator<Integer> next = IntStream.range(0, names.size()).iterator();
                yield Files.write(folder.resolve(name), map.write(instrument.mapZones(z -> List.of(z.withSample(next.next()))), names));
            }
            case MapFormat map -> {
                for (int i = 0; i < sounds.size(); i++)
                    WholeSound.write(folder.resolve("a sound " + i + ".wav"), SoundFormats.written("wav").orElseThrow(), 44_100, Depth.INT_24,
                            SoundMetadata.NONE,
                            List.of(),
                            sounds.get(i));
                yield Files.write(folder.resolve(name),
                        map.write(renumbered(instrument, order), order.stream().map(i -> "a sound " + i + ".wav").toList()));
            }
            default -> throw new IllegalStateException(format.id());
        };
    }

    private static Instrument renumbered(Instrument instrument, List<Integer> order) {
        return instrument.mapZones(z -> List.of(z.withSample(order.indexOf(z.sample()))));
    }
}
