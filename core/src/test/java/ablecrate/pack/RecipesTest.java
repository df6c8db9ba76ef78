package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.format.Instruments;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.plan.LevelPlan;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.ChannelMix;
import ablecrate.signal.Ends;
import ablecrate.signal.Hold;
import ablecrate.signal.OutputChain;
import ablecrate.signal.SourceChain;
import ablecrate.signal.LoopCarry;
import ablecrate.signal.LoopRoom;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A second run leaves out what is there only where nothing at all is different.
class RecipesTest {
    @TempDir Path folder;
    private SoundFile source;
    private SourceChain sourceChain;
    private final OutputShape shape = new OutputShape(48_000, 1, Depth.INT_24, 1000);

    @BeforeEach void makeSource() throws Exception {
        source = read(Sounds.wav(folder.resolve("reed.wav"), 44_100, Depth.INT_16, Sounds.sine(441, 0.5, 44_100, 1000)));
        sourceChain = new SourceChain(new FrameRange(0, 1000), List.of(0.0), ChannelMix.keep(1), 48_000, 44_100, 48_000, Optional.empty(), List.of());
    }

    private static SoundFile read(Path file) { return Gatherer.read(new Gathered(file, file, new Gathered.Content.Unread())).sound().orElseThrow(); }

    private PlannedOutput output(OutputShape shape, SourceChain sourceChain, OutputChain outputChain, Dither dither, String formatId, SoundMetadata metadata) {
        return new PlannedOutput(source, "reed.wav", formatId, shape, metadata, sourceChain, outputChain, LevelPlan.NONE, dither, false, true, List.of(),
                Optional.empty());
    }

    private PlannedOutput output(SourceChain sourceChain) { return output(shape, sourceChain, OutputChain.NONE, Dither.NONE, "wav", SoundMetadata.NONE); }

    private PlannedOutput output(OutputChain outputChain) { return output(shape, sourceChain, outputChain, Dither.NONE, "wav", SoundMetadata.NONE); }

    private PlannedOutput output(OutputShape shape) { return output(shape, sourceChain, OutputChain.NONE, Dither.NONE, "wav", SoundMetadata.NONE); }

    @Test void whateverDecidesAboutSamplesChangesTheRecipe() throws Exception {
        LoopCarry loop = new LoopCarry(new FrameRange(10, 500), new FrameRange(11, 544), false, 0, 0, LoopRoom.NONE);
        List<PlannedOutput> others = List.of(output(sourceChain), output(new OutputShape(48_000, 2, Depth.INT_24, 1000)),
                output(new OutputShape(48_000, 1, Depth.INT_16, 1000)), output(new OutputShape(48_000, 1, Depth.INT_24, 1001)),
                output(new OutputShape(44_100, 1, Depth.INT_24, 1000)),
                output(new SourceChain(new FrameRange(1, 1000), List.of(0.0), sourceChain.mix(), 48_000, 44_100, 48_000, Optional.empty(), List.of())),
                output(new SourceChain(sourceChain.part(), List.of(1e-12), sourceChain.mix(), 48_000, 44_100, 48_000, Optional.empty(), List.of())),
                output(new SourceChain(sourceChain.part(), List.of(), sourceChain.mix(), 48_000, 44_100, 48_000, Optional.empty(), List.of())),
                output(sourceChain.with(ChannelMix.doubled())),
                output(new SourceChain(sourceChain.part(), List.of(0.0), sourceChain.mix(), 48_001, 44_100, 48_000, Optional.empty(), List.of())),
                output(new SourceChain(sourceChain.part(), List.of(0.0), sourceChain.mix(), 48_000, 44_101, 48_000, Optional.empty(), List.of())),
                output(new SourceChain(sourceChain.part(), List.of(0.0), sourceChain.mix(), 48_000, 44_100, 48_000, Optional.of(loop), List.of())),
                output(new SourceChain(sourceChain.part(), List.of(0.0), sourceChain.mix(), 48_000, 44_100, 48_000, Optional.empty(),
                        List.of(new FrameRange(7, 9)))),
                output(new OutputChain(0.001, new Ends(0, FadeShape.LINEAR, 0, FadeShape.LINEAR), Optional.empty())),
                output(new OutputChain(0, new Ends(1, FadeShape.LINEAR, 0, FadeShape.LINEAR), Optional.empty())),
                output(new OutputChain(0, new Ends(1, FadeShape.EQUAL_POWER, 0, FadeShape.LINEAR), Optional.empty())),
                output(new OutputChain(0, new Ends(0, FadeShape.LINEAR, 1, FadeShape.LINEAR), Optional.empty())),
                output(new OutputChain(0, new Ends(0, FadeShape.LINEAR, 0, FadeShape.LINEAR), Optional.of(new Hold.TruePeaks(-1)))),
                output(shape, sourceChain, OutputChain.NONE, Dither.TPDF, "wav", SoundMetadata.NONE),
                output(shape, sourceChain, OutputChain.NONE, Dither.NONE, "aiff", SoundMetadata.NONE));
        assertThat(others.stream().map(this::recipe)).doesNotHaveDuplicates();
        assertThat(recipe(output(new OutputShape(48_000, 1, Depth.INT_24, 1000)))).as("what is the same has the same").isEqualTo(recipe(others.getFirst()));
        assertThat(recipe(output(shape, sourceChain, OutputChain.NONE, Dither.NONE, "wav", SoundMetadata.NONE.withTexts(Map.of(TextField.NAME, "reed")))))
                .as("metadata")
                .isNotEqualTo(recipe(others.getFirst()));
    }

    private String recipe(PlannedOutput output) {
        try {
            return PackedBefore.recipe(source, output);
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    @Test void aSourceThatWasTouchedOrMovedIsAnother() throws Exception {
        String before = recipe(output(sourceChain));
        FileTime time = Files.getLastModifiedTime(source.path());
        Files.setLastModifiedTime(source.path(), FileTime.fromMillis(time.toMillis() + 5));
        assertThat(recipe(output(sourceChain))).isNotEqualTo(before);
        Files.setLastModifiedTime(source.path(), time);
        assertThat(recipe(output(sourceChain))).isEqualTo(before);
        SoundFile moved = read(Files.copy(source.path(), folder.resolve("other.wav"), java.nio.file.StandardCopyOption.COPY_ATTRIBUTES));
        assertThat(PackedBefore.recipe(moved, output(sourceChain))).isNotEqualTo(before);
    }

    /// Each setting of a zone, by the least step; texts of zones round.
    @Test void whateverDecidesAboutInstrumentsChangesTheRecipe() throws Exception {
        Instrument made = Instruments.random(new Random(5), 1, 3);
        List<Instrument> others = new java.util.ArrayList<>(List.of(made));
        for (Parameter<?> p : Parameter.ALL)
            others.add(changed(made, nudged(made.zones().getFirst(), p)));
        others.add(changed(made, made.zones().getFirst().withSample(0).without(Parameter.KEYS).without(Parameter.GAIN).without(Parameter.PAN)));
        others.add(new Instrument(About.named("other"), made.program(), made.groups()));
        others.add(new Instrument(made.about(), Optional.of(new Instrument.Program(1, 2, false)), made.groups()));
        List<String> recipes = Stream.concat(others.stream().map(i -> new PlannedMap("a.sfz", "sfz", About.named(""), List.of(i), Optional.empty())),
                Stream.of(new PlannedMap("a.sfz", "sfz", About.named("crate"), List.of(made), Optional.empty()),
                        new PlannedMap("a.sfz", "dls", About.named(""), List.of(made), Optional.empty()),
                        new PlannedMap("a.sfz", "sfz", About.named(""), List.of(made), Optional.of(folder))))
                .map(this::recipe).toList();
        assertThat(recipes).doesNotHaveDuplicates();
        PlannedMap map = new PlannedMap("a.sfz", "sfz", About.named(""), List.of(made), Optional.empty());
        assertThat(PackedBefore.recipe(map, List.of(output(sourceChain)))).isEqualTo(recipes.getFirst());
        assertThat(PackedBefore.recipe(map,
                List.of(output(sourceChain).source() == source ? output(shape, sourceChain, OutputChain.NONE, Dither.TPDF, "wav", SoundMetadata.NONE) : null)))
                .as("a sound in it that is made otherwise").isNotEqualTo(recipes.getFirst());
    }

    private String recipe(PlannedMap map) {
        try {
            return PackedBefore.recipe(map, List.of(output(sourceChain)));
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private static Instrument changed(Instrument made, Zone first) {
        List<Zone> zones = new java.util.ArrayList<>(made.groups().getFirst().zones());
        zones.set(0, first);
        List<ZoneGroup> groups = new java.util.ArrayList<>(made.groups());
        groups.set(0, new ZoneGroup(groups.getFirst().name(), zones));
        return made.withGroups(groups);
    }

    /// With one setting otherwise: a number by a hair, anything else unsaid or said.
    @SuppressWarnings("unchecked") private static <T> Zone nudged(Zone zone, Parameter<T> p) {
        if (zone.get(p) instanceof Double value) {
            Parameter<Double> number = (Parameter<Double>) p;
            double hair = 1e-6 * Math.max(1, Math.abs(value));
            return zone.with(number, number.allows(value + hair) ? value + hair : value - hair);
        }
        return zone.said(p).isPresent() ? zone.without(p) : zone.with(p, p.usual());
    }
}
