package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.destination.SheetCatalogue;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.option.Beats;
import ablecrate.option.OptionValues;
import ablecrate.play.FluidSynth;
import ablecrate.planner.ListeningPlanner;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import ablecrate.sidecar.Contents;
import ablecrate.sidecar.ContentsTable;
import ablecrate.sidecar.CueSheet;
import ablecrate.sidecar.RhythmFile;
import ablecrate.sidecar.Sidecar;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/// A clip whose hits are played unevenly, in slices, with the MIDI files that play them.
class RhythmTest {
    private static final int RATE = 44_100, FRAMES = 2 * RATE, FADE_OUT = 132, PRE_ROLL = 44;
    /// Eighths at 120 beats a minute, up to 30 ms early or late; the first on the first frame.
    private static final double[] PLAYED = {0, 0.27, 0.49, 0.76, 1.01, 1.22, 1.5, 1.78};

    @TempDir Path folder;

    private final double[][] clip = new double[2][FRAMES];
    {
        Random random = new Random(6);
        for (double second : PLAYED)
            for (int n = 0; n < 8_000; n++)
                clip[0][(int) Math.round(second * RATE) + n] = clip[1][(int) Math.round(second * RATE) + n] = 0.5 * Math.exp(-n / 800.0) * random.nextGaussian()
                        / 4;
    }

    private record Note(int key, double seconds) {}

    private PackingSlip pack(String name, Map<String, Object> said) throws Exception { return pack(name, said, "files"); }

    private PackingSlip pack(String name, Map<String, Object> said, String destination) throws Exception {
        Path file = Files.createDirectories(folder.resolve("in")).resolve(name + ".wav");
        if (!Files.exists(file)) Sounds.write(file, "wav", RATE, Depth.INT_24, SoundMetadata.NONE, clip);
        Map<String, Object> options = new HashMap<>(Map.of("chop", "onsets"));
        options.putAll(said);
        var list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(file), () -> false)), new SheetCatalogue().find(destination),
                OptionValues.options(options), Map.of(), new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        return new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
    }

    /// As the JDK reads it.
    private static List<Note> notes(File midi) throws Exception {
        Sequence sequence = MidiSystem.getSequence(midi);
        List<Note> notes = new ArrayList<>();
        double tick = 0;
        for (int i = 0; i < sequence.getTracks()[0].size(); i++) {
            MidiEvent event = sequence.getTracks()[0].get(i);
            if (event.getMessage() instanceof MetaMessage m && m.getType() == 0x51)
                tick = ((m.getData()[0] & 255) << 16 | (m.getData()[1] & 255) << 8 | m.getData()[2] & 255) / 1e6 / sequence.getResolution();
            if (event.getMessage() instanceof ShortMessage s && s.getCommand() == ShortMessage.NOTE_ON)
                notes.add(new Note(s.getData1(), event.getTick() * tick));
        }
        assertThat(tick).as("a tick, in seconds").isBetween(5e-5, 1e-4);
        return notes;
    }

    /// The instrument, played by its own MIDI file, is the clip again, but for the fades of 1 and 3 ms where two slices meet.
    @ParameterizedTest @ValueSource(strings = {"windmill 120bpm", "windmill 97.3bpm", "windmill 33bpm", "windmill"}) void playedItIsTheClip(
            String name) throws Exception {
        PackingSlip slip = pack(name, Map.of("rhythm", "played", "container", "sfz"));
        assertThat(slip.items().getFirst().sidecars()).singleElement().satisfies(s -> assertThat(s.checks()).allMatch(PackingSlip.Check::ok));
        List<Note> notes = notes(folder.resolve("out/" + name + ".mid").toFile());
        assertThat(notes).extracting(Note::key).containsExactlyElementsOf(IntStream.range(36, 44).boxed().toList());
        for (int i = 0; i < notes.size(); i++)
            assertThat(notes.get(i).seconds()).as("note %d begins where its slice does, to a tick of at most 0.1 ms", i)
                    .isCloseTo(Math.max(0, PLAYED[i] - PRE_ROLL / (double) RATE), within(1.1e-3));
        double[][] heard = played(folder.resolve("out/" + name + ".sfz"), notes);
        double worst = -200;
        for (int i = 0; i < notes.size(); i++) {
            int from = (int) Math.round(notes.get(i).seconds() * RATE) + PRE_ROLL,
                    to = i + 1 < notes.size() ? (int) Math.round(notes.get(i + 1).seconds() * RATE) - FADE_OUT - 10 : FRAMES - 10;
            worst = Math.max(worst, nearest(heard[0], from + 5, to));
        }
        assertThat(worst).as("what differs, in dBFS, each slice at most a tick away from its place").isLessThan(-90);
    }

    /// A bar begins after 0.5 s, a beat at 120 a minute, so the clip with the fourth beat of the bar before: in both files that is bar 1.
    @Test void barsOfMidiFilesBeginWhereThoseOfTheClipDo() throws Exception {
        PackingSlip slip = pack("windmill 120bpm", Map.of("rhythm", "both", "downbeat", "0.5", "quantise", "1/4", "container", "sfz"));
        assertThat(slip.items().getFirst().changes())
                .anySatisfy(c -> assertThat(c.after()).isEqualTo("MIDI file of 8 notes, 120.0 beats a minute; the clip begins at beat 4.00 of bar 1"));
        double pickUp = 1.5;
        List<Note> played = notes(folder.resolve("out/windmill 120bpm.mid").toFile()),
                quantised = notes(folder.resolve("out/windmill 120bpm quantised.mid").toFile());
        for (int i = 0; i < played.size(); i++) {
            assertThat(played.get(i).seconds()).isCloseTo(pickUp + Math.max(0, PLAYED[i] - PRE_ROLL / (double) RATE), within(1.1e-3));
            double beat = (quantised.get(i).seconds() + (PLAYED[i] == 0 ? 0 : PRE_ROLL / (double) RATE)) / 0.5;
            assertThat(beat).as("on a beat of its bars").isCloseTo(Math.rint(beat), within(3e-3));
        }
        assertThat(new Beats(Optional.of(120.0), Optional.of(4.25)).pickUpSeconds(120)).as("two bars and a quarter second before").isCloseTo(1.75,
                within(1e-9));
        assertThat(new Beats(Optional.of(120.0), Optional.of(4.0)).pickUpSeconds(120)).isZero();
    }

    /// The loudest difference from the clip, laid where it fits best within a tick of five frames.
    private double nearest(double[] heard, int from, int to) {
        double best = 0;
        for (int shift = -5; shift <= 5; shift++) {
            double most = 0;
            for (int n = from; n < to; n++)
                most = Math.max(most, Math.abs(heard[n + shift] - clip[0][n]));
            best = Math.min(best, 20 * Math.log10(most + 1e-9));
        }
        return best;
    }

    private static double[][] played(Path map, List<Note> notes) throws Exception {
        InstrumentFile file = InstrumentFormats.byId("sfz").orElseThrow().read(map);
        Voices voices = new Voices(file.instruments().getFirst(), sample -> {
            try {
                return Optional.of(LoadedSound.of(file.sound(sample).orElseThrow().open()));
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }, RATE, new Random(1));
        double[][] out = new double[2][FRAMES];
        for (int n = 0, next = 0; n < FRAMES; n++) {
            while (next < notes.size() && Math.round(notes.get(next).seconds() * RATE) <= n)
                voices.noteOn(notes.get(next++).key(), 127);
            double[][] frame = new double[2][1];
            voices.render(frame, 1);
            out[0][n] = frame[0][0];
            out[1][n] = frame[1][0];
        }
        return out;
    }

    /// Another player, with the SoundFont: each note sounds like the clip does where the file has it, to a tick. FluidSynth starts notes in steps of 64 frames, so each
    /// is played by itself and laid where the file has it.
    @Test void inAnotherPlayerEachAttackFallsWhereTheClipHasIt() throws Exception {
        FluidSynth fluid = FluidSynth.find().orElse(null);
        assumeTrue(fluid != null, "libfluidsynth3 is not installed");
        pack("windmill 120bpm", Map.of("rhythm", "played", "container", "sf2"));
        List<Note> notes = notes(folder.resolve("out/windmill 120bpm.mid").toFile());
        for (int i = 0; i < notes.size(); i++) {
            double[] heard = fluid.render(folder.resolve("out/windmill 120bpm.sf2"), 0, 0, notes.get(i).key(), 127, RATE, 8_000)[0];
            int at = (int) Math.round(notes.get(i).seconds() * RATE), best = 0;
            double most = 0;
            for (int shift = -100; shift <= 100; shift++) {
                double product = 0;
                for (int n = 200; n < 3_000; n++)
                    product += heard[n] * clip[0][Math.min(FRAMES - 1, at + n + shift)];
                if (product > most) {
                    most = product;
                    best = shift;
                }
            }
            assertThat(Math.abs(best) / (double) RATE).as("note %d", i).isLessThanOrEqualTo(1e-4);
        }
    }

    /// Attacks fall on the grid, not starts of slices, which lie 1 ms before them.
    @ParameterizedTest @CsvSource({"100, 50", "100, 62", "50, 50", "0, 50"}) void quantisedItsAttacksFallOnTheGrid(int strength, double swing)
            throws Exception {
        pack("windmill 120bpm", Map.of("rhythm", "both", "quantise", "1/8", "strength", strength, "swing", swing));
        List<Note> notes = notes(folder.resolve("out/windmill 120bpm/windmill 120bpm quantised.mid").toFile());
        for (int i = 0; i < notes.size(); i++) {
            double grid = i * 0.25 + (i % 2 == 0 ? 0 : (swing - 50) / 50 * 0.25), wanted = PLAYED[i] + strength / 100.0 * (grid - PLAYED[i]);
            assertThat(notes.get(i).seconds() + (i == 0 ? 0 : PRE_ROLL / (double) RATE)).as("note " + i).isCloseTo(wanted, within(1e-3));
        }
    }

    /// A clip whose tempo nobody can tell has no bars; what it played is known all the same.
    @Test void withoutATempoThereIsNoGrid() throws Exception {
        for (int n = 20_000; n < FRAMES; n++)
            clip[0][n] = clip[1][n] = 0;
        PackingSlip slip = pack("gate", Map.of("rhythm", "both"));
        assertThat(slip.items().getFirst().verdict()).isEqualTo("reduced");
        assertThat(slip.items().getFirst().changes())
                .anySatisfy(c -> assertThat(c.reason()).isEqualTo("no quantised MIDI file: no tempo is heard; say one (--bpm)"));
        assertThat(slip.items().getFirst().sidecars()).singleElement().satisfies(s -> assertThat(s.path()).isEqualTo("gate/gate.mid"));
    }

    /// Drum pads refuse a card with anything else on it.
    @Test void aDeviceThatTakesSoundsAloneGetsNone() throws Exception {
        PackingSlip slip = pack("windmill 120bpm", Map.of("rhythm", "both"), "drum-pads");
        assertThat(slip.items().getFirst().sidecars()).isEmpty();
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).isEqualTo("no MIDI file: the destination takes sounds alone"));
        assertThat(slip.items().getFirst().outputs()).hasSize(8);
    }

    @Test void aFileOfOnesOwnIsLeftAndOneThatIsThereIsNotWrittenAgain() throws Exception {
        Map<String, Object> said = Map.of("rhythm", "played", "existing", "update");
        pack("windmill 120bpm", said);
        assertThat(pack("windmill 120bpm", said).outcomes()).containsOnlyKeys("skipped");
        Path midi = folder.resolve("out/windmill 120bpm/windmill 120bpm.mid");
        byte[] mine = {1, 2, 3};
        Files.write(midi, mine);
        assertThat(pack("windmill 120bpm", said).outcomes()).containsOnlyKeys("left");
        assertThat(midi).hasBinaryContent(mine);
        Files.delete(midi);
        assertThat(pack("windmill 120bpm", said).outcomes()).containsOnlyKeys("packed");
        assertThat(notes(midi.toFile())).hasSize(8);
    }

    @ParameterizedTest @CsvSource({"strength, 101, a strength is 0 to 100 %", "swing, 49, a swing is 50 to 75 %", "quantise, 1/0, none of 1/16",
        "rhythm, straight, none of none"}) void whatIsNoRhythmIsRefused(String option, String value, String message) {
        assertThatThrownBy(() -> OptionValues.options(Map.of(option, value))).hasMessageContaining(message);
    }

    private static final List<RhythmFile.Note> NOTES = List.of(new RhythmFile.Note(36, 0.5, 0.1, 0), new RhythmFile.Note(37, 0.75, 0.1, 0));
    private static final Contents.Entry BELL = new Contents.Entry("bell", 0, 100, "bell.wav"), GATE = new Contents.Entry("gate", 100, 100, "gate.wav");

    private static Stream<Arguments> spoilt() {
        RhythmFile right = new RhythmFile("gate", 120, false, 0, NOTES);
        Contents contents = new Contents("night", 44_100, List.of(BELL, GATE)),
                moved = new Contents("night", 44_100, List.of(BELL, new Contents.Entry("gate", 900, 100, "gate.wav")));
        return Stream.of(Arguments.of("no note", right, new RhythmFile("gate", 120, false, 0, NOTES.subList(0, 1)).bytes(List.of())),
                Arguments.of("another key", right,
                        new RhythmFile("gate", 120, false, 0, List.of(NOTES.getFirst(), new RhythmFile.Note(38, 0.75, 0.1, 0))).bytes(List.of())),
                Arguments.of("0.3 ms late", right,
                        new RhythmFile("gate", 120, false, 0, List.of(NOTES.getFirst(), new RhythmFile.Note(37, 0.7503, 0.1, 0))).bytes(List.of())),
                Arguments.of("no MIDI file", right, new byte[]{'M', 'T', 'h', 'd', 0}),
                Arguments.of("another frame", new ContentsTable(contents), new ContentsTable(moved).bytes(List.of("night.wav"))),
                Arguments.of("another time", new CueSheet(contents), new CueSheet(moved).bytes(List.of("night.wav"))));
    }

    /// What is read again is what was asked for, and nothing near it.
    @ParameterizedTest(name = "{0}") @MethodSource("spoilt") void whatIsNotAsPlannedIsSeen(String what, Sidecar planned, byte[] written) {
        assertThat(planned.found(written).isAsPlanned()).isFalse();
        assertThat(planned.found(planned.bytes(List.of("night.wav"))).isAsPlanned()).isTrue();
    }
}
