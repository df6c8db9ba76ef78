package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.ItemEdit;
import ablecrate.option.PackOptions;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.assertj.core.api.InstanceOfAssertFactories;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Loops that the user sets go where those of the file would have gone.
class LoopsByHandTest {
    @TempDir Path folder;

    private Path held(LoopSpan... loops) throws Exception {
        Path file = folder.resolve("in").resolve("Bottle.wav");
        Files.createDirectories(file.getParent());
        return Sounds.write(file, "wav", 44_100, Depth.INT_16,
                SoundMetadata.NONE.withLoops(List.of(loops).stream().map(l -> Loop.sustain(new FrameRange(l.from, l.to), LoopMode.FORWARD)).toList()),
                Sounds.sine(441, 0.5, 44_100, 44_100));
    }

    private record LoopSpan(long from, long to) {}

    private PackingSlip pack(Path file, PackOptions options, List<Loop> wanted) throws Exception {
        var list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(file.getParent()), () -> false)), new SheetCatalogue().find("files"), options,
                Map.of(file, ItemEdit.NONE.withLoops(Optional.of(wanted))), new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        assertThat(list.items()).singleElement();
        return new Packer(list, new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
    }

    private SoundFile packed(String name) throws Exception {
        Path file = folder.resolve("out").resolve(name);
        return ((FileKind.Sound) FileKind.of(file)).read(file);
    }

    @Test void aLoopThatWasMovedIsWrittenAndTheAudioStays() throws Exception {
        Path file = held(new LoopSpan(1000, 40_000));
        Loop wanted = Loop.sustain(new FrameRange(2000, 30_000), LoopMode.ALTERNATING).withPlayCount(5);
        PackingSlip slip = pack(file, PackOptions.DEFAULT, List.of(wanted));
        assertThat(slip.outcomes()).containsEntry("packed", 1);
        SoundFile written = packed("Bottle.wav");
        assertThat(written.metadata().loops()).containsExactly(wanted);
        assertThat(Sounds.readAll(written.open())[0]).isEqualTo(Sounds.readAll(((FileKind.Sound) FileKind.of(file)).read(file).open())[0]);
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> {
            assertThat(c.kind()).isEqualTo("loops-set");
            assertThat(c.reason()).isEqualTo("1 loop set by hand");
            assertThat(c.before()).isEqualTo("1,000…40,000");
            assertThat(c.after()).isEqualTo("2,000…30,000");
        });
    }

    @Test void aLoopThatWasTakenAwayIsGone() throws Exception {
        PackingSlip slip = pack(held(new LoopSpan(1000, 40_000)), PackOptions.DEFAULT, List.of());
        assertThat(packed("Bottle.wav").metadata().loops()).isEmpty();
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).isEqualTo("1 loop removed by hand"));
    }

    /// As many frames as the file has them are no edit: the file is copied.
    @Test void theSameLoopIsNoChange() throws Exception {
        Path file = held(new LoopSpan(1000, 40_000));
        pack(file, PackOptions.DEFAULT, List.of(Loop.sustain(new FrameRange(1000, 40_000), LoopMode.FORWARD)));
        assertThat(folder.resolve("out/Bottle.wav")).hasSameBinaryContentAs(file);
    }

    /// 28,000 frames at 44.1 kHz are 30,476.19 at 48 kHz: whole, the rest in the tuning.
    @Test void aLoopThatWasSetRulesTheConversion() throws Exception {
        pack(held(), PackOptions.DEFAULT.withRate(Choice.of(48_000)), List.of(Loop.sustain(new FrameRange(2000, 30_000), LoopMode.FORWARD)));
        SoundFile written = packed("Bottle.wav");
        assertThat(written.metadata().loops()).singleElement().satisfies(l -> assertThat(l.frames().length()).isEqualTo(30_476));
        double cents = 1200 * Math.log(28_000 * 48_000.0 / 44_100 / 30_476) / Math.log(2);
        assertThat(written.metadata().mapping().fineTuneCents()).isCloseTo(-cents, within(0.01));
    }

    @Test void aMapOfLooseSoundsHasTheLoopThatWasSet() throws Exception {
        pack(held(), PackOptions.DEFAULT.withContainer(Choice.of("sfz")), List.of(Loop.sustain(new FrameRange(2000, 30_000), LoopMode.FORWARD)));
        try (Stream<Path> files = Files.walk(folder.resolve("out"))) {
            assertThat(files.filter(f -> f.toString().endsWith(".sfz")).findFirst()).get(InstanceOfAssertFactories.PATH).content()
                    .contains("loop_start=2000").contains("loop_end=29999");
        }
    }

    @Test void aLoopPastTheEndIsLeftOut() throws Exception {
        Path file = held();
        pack(file, PackOptions.DEFAULT, List.of(Loop.sustain(new FrameRange(2000, 44_101), LoopMode.FORWARD)));
        assertThat(folder.resolve("out/Bottle.wav")).hasSameBinaryContentAs(file);
    }
}
