package ablecrate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// One note stands for others, and what is heard of it, raised by what they are louder, is what would be heard of them.
class AlikeTest {
    @TempDir Path folder;
    private Notes notes;
    private Zone zone;

    @BeforeEach void oneSound() throws Exception {
        MadeInstrument made = MadeInstrument.ofRoots(folder, 2, 12);
        FitTask task = made.task(DeviceLimits.NONE);
        notes = new Notes(sample -> MadeInstrument.loaded(task, sample), FitTask.Format.ANY);
        zone = made.instrument().zones().getFirst().with(Parameter.KEYS, new Span(36, 72)).with(Parameter.PAN, -40.0);
    }

    private static Zone soft(Zone zone) {
        return zone.with(Parameter.GAIN, -7.5).with(Parameter.VELOCITY_TRACKING, 60.0).with(Parameter.FILTER, FilterKind.LOW_PASS)
                .with(Parameter.CUTOFF, 2_000.0)
                .with(Parameter.FILTER_VELOCITY, 1_200.0);
    }

    @Test void aNoteSoundsAsTheOneThatStandsForItButForItsLevel() {
        List<Zone> pair = List.of(soft(zone), soft(zone).with(Parameter.GAIN, -10.5).with(Parameter.PAN, 70.0).with(Parameter.ROOT_KEY, 55));
        Alike alike = Alike.of(pair, 50, 40, false);
        HeardNote one = notes.held(pair, 50, 40), other = notes.held(alike.note().zones(), alike.note().key(), alike.note().velocity());
        assertThat(one.levelDb() - other.levelDb()).isCloseTo(alike.louderDb(), within(0.001));
        assertThat(one.alignedHarm(other)).isLessThan(0.001);
        assertThat(Math.abs(alike.louderDb())).isGreaterThan(3);
    }

    /// Layers of the same sound share a rendering; one that is brighter does not, unless one listens less closely.
    @Test void layersAreAlikeAndColoursAreNot() {
        Zone dark = soft(zone), less = dark.with(Parameter.CUTOFF, 2_100.0);
        assertThat(of(dark, 100, false)).isEqualTo(of(dark.with(Parameter.GAIN, 3.0).with(Parameter.VELOCITIES, new Span(90, 127)), 100, false))
                .isNotEqualTo(of(less, 100, false)).isNotEqualTo(of(dark.with(Parameter.TUNING, 20.0), 100, false));
        assertThat(of(dark, 100, true)).isEqualTo(of(less, 100, true)).isNotEqualTo(of(dark.with(Parameter.CUTOFF, 4_000.0), 100, true));
    }

    private static Alike.Note of(Zone zone, int velocity, boolean isRough) { return Alike.of(List.of(zone), 50, velocity, isRough).note(); }

    @Test void whatIsForetoldIsAsLoudAsItIsPlayed() {
        Stack stack = new Stack(new Span(36, 72), new Span(1, 127), List.of(soft(zone)));
        Foretold foretold = new Foretold(notes, false);
        for (int velocity : new int[]{30, 127}) {
            HeardNote[] heard = foretold.on(stack, velocity, new Span(45, 52));
            for (int key : new int[]{45, 48, 52}) {
                HeardNote played = notes.held(stack.zones(), key, velocity);
                assertThat(heard[key].levelDb()).as("key %d, velocity %d", key, velocity).isCloseTo(played.levelDb(), within(0.5));
                assertThat(heard[key].alignedHarm(played)).as("key %d, velocity %d", key, velocity).isLessThan(1.5);
            }
            assertThat(heard[44]).isNull();
        }
    }
}
