package ablecrate.play;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.FrameRange;
import ablecrate.instrument.About;
import ablecrate.instrument.Chance;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What zones say is what is heard. Velocity goes to level by v²/127² (the concave curve of SoundFont 2.04, section 8.4.1); fades by power add up to one.
class VoicesTest {
    private static final int RATE = 48_000;

    private static Instrument of(Zone... zones) { return new Instrument(About.named("test"), Optional.empty(), List.of(new ZoneGroup("", List.of(zones)))); }

    private static Zone tone() { return Zone.of(0).with(Parameter.ROOT_KEY, 60); }

    private static Voices voices(Instrument instrument, double[]... planes) {
        return new Voices(instrument, _ -> Optional.of(new LoadedSound(planes, RATE)), RATE, new Random(7));
    }

    private static double[] constant(int frames) { return Sounds.signal(frames, _ -> 0.5); }

    private static double[][] render(Voices voices, int frames) {
        double[][] out = new double[2][frames];
        voices.render(out, frames);
        return out;
    }

    @ParameterizedTest @CsvSource({"127, 0", "64, -11.905", "32, -23.946", "1, -84.152"}) void velocityGoesToLevelBySquare(int velocity, double db) {
        Voices full = voices(of(tone()), constant(100), constant(100)), soft = voices(of(tone()), constant(100), constant(100));
        full.noteOn(60, 127);
        soft.noteOn(60, velocity);
        assertThat(Sounds.db(render(soft, 50)[0][40] / render(full, 50)[0][40])).isCloseTo(db, within(0.01));
    }

    @Test void keysPlayTheirZonesAtTheirPitch() {
        double[] sine = Sounds.sine(480, 0.5, RATE, RATE);
        Voices voices = voices(of(tone().with(Parameter.KEYS, new Span(50, 72))), sine);
        assertThat(voices.noteOn(73, 100)).isEmpty();
        assertThat(voices.noteOn(72, 100)).hasSize(1);
        double[] heard = render(voices, 4800)[0];
        int crossings = 0;
        for (int i = 1; i < heard.length; i++)
            if (heard[i - 1] <= 0 && heard[i] > 0) crossings++;
        assertThat(crossings).as("an octave above 480 Hz for a tenth of a second").isBetween(95, 96);
    }

    @Test void turnsFollowEachOtherOnEachKey() {
        Instrument robin = of(tone().with(Parameter.TURN, new Turn(1, 3)), tone().with(Parameter.TURN, new Turn(2, 3)),
                tone().with(Parameter.TURN, new Turn(3, 3)));
        Voices voices = voices(robin, constant(100));
        List<Integer> heard = new ArrayList<>();
        for (int i = 0; i < 6; i++)
            heard.add(voices.noteOn(60, 100).getFirst().get(Parameter.TURN).position());
        assertThat(heard).containsExactly(1, 2, 3, 1, 2, 3);
        assertThat(voices.noteOn(61, 100).getFirst().get(Parameter.TURN).position()).as("another key starts anew").isEqualTo(1);
    }

    @Test void chancesShareTheNotesAmongThem() {
        Voices voices = voices(of(tone().with(Parameter.CHANCE, new Chance(0, 0.25)), tone().with(Parameter.CHANCE, new Chance(0.25, 1))), constant(10));
        int first = 0;
        for (int i = 0; i < 2000; i++) {
            List<Zone> zones = voices.noteOn(60, 100);
            assertThat(zones).hasSize(1);
            if (zones.getFirst().get(Parameter.CHANCE).low() == 0) first++;
        }
        assertThat(first).isBetween(400, 600);
    }

    @Test void layersThatFadeIntoEachOtherKeepTheirPower() {
        Zone soft = tone().with(Parameter.VELOCITY_FADE_OUT, Optional.of(new Span(40, 80))).with(Parameter.VELOCITY_TRACKING, 0.0);
        Zone hard = tone().with(Parameter.VELOCITY_FADE_IN, Optional.of(new Span(40, 80))).with(Parameter.VELOCITY_TRACKING, 0.0);
        for (int velocity = 30; velocity <= 90; velocity += 10) {
            double power = 0;
            for (Zone zone : List.of(soft, hard)) {
                Voices voices = voices(of(zone), constant(100), constant(100));
                voices.noteOn(60, velocity);
                power += Math.pow(render(voices, 50)[0][40] / 0.5, 2);
            }
            assertThat(power).as("velocity %d", velocity).isCloseTo(1, within(1e-9));
        }
    }

    @Test void aLoopSoundsForAsLongAsTheKeyIsHeldAndUntilReleaseNoLonger() {
        double[] step = Sounds.signal(1000, n -> n < 900 ? 0.5 : -0.5);
        Zone looped = tone().with(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(100, 900), LoopMode.FORWARD))).with(Parameter.RELEASE, 5.0);
        Voices endless = voices(of(looped), step), until = voices(of(looped.with(Parameter.LOOP_UNTIL_RELEASE, true)), step);
        for (Voices voices : List.of(endless, until)) {
            voices.noteOn(60, 127);
            double[] held = render(voices, 5000)[0];
            assertThat(held[4999]).isPositive();
            voices.noteOff(60);
        }
        render(endless, 2000);
        assertThat(endless.isSilent()).isFalse();
        double[] tail = render(until, 2000)[0];
        assertThat(tail[1999]).as("played to its end").isZero();
        assertThat(until.isSilent()).isTrue();
        assertThat(Arrays.stream(tail).min().orElseThrow()).as("past the loop lies what the file has there").isNegative();
    }

    @Test void theEnvelopeRisesHoldsFallsAndStays() {
        Zone zone = tone().with(Parameter.ATTACK, 0.1).with(Parameter.HOLD, 0.1).with(Parameter.DECAY, 0.1).with(Parameter.SUSTAIN, -20.0)
                .with(Parameter.RELEASE, 0.1);
        Voices voices = voices(of(zone), constant(RATE), constant(RATE));
        voices.noteOn(60, 127);
        double[] x = render(voices, RATE / 2)[0];
        assertThat(x[RATE / 20] / 0.5).as("half-way up").isCloseTo(0.5, within(0.01));
        assertThat(x[RATE * 3 / 20] / 0.5).as("held").isCloseTo(1, within(0.001));
        assertThat(Sounds.db(x[RATE / 4] / 0.5)).as("half-way down").isCloseTo(-10, within(0.2));
        assertThat(Sounds.db(x[RATE * 2 / 5] / 0.5)).as("sustained").isCloseTo(-20, within(0.001));
        voices.noteOff(60);
        render(voices, RATE / 8);
        assertThat(voices.isSilent()).isTrue();
    }

    @Test void releaseSoundsComeWhenTheKeyIsLetGo() {
        Voices voices = voices(of(tone().with(Parameter.TRIGGER, Trigger.RELEASE).with(Parameter.ONE_SHOT, true)), constant(100));
        assertThat(voices.noteOn(60, 100)).isEmpty();
        assertThat(voices.isSilent()).isTrue();
        voices.noteOff(60);
        assertThat(voices.isSilent()).isFalse();
    }

    @Test void anExclusiveGroupEndsTheOther() {
        Zone open = tone().with(Parameter.KEYS, new Span(60, 60)).with(Parameter.EXCLUSIVE_GROUP, 1).with(Parameter.SILENCED_BY, 1);
        Voices voices = voices(of(open, open.with(Parameter.KEYS, new Span(61, 61))), constant(RATE), constant(RATE));
        voices.noteOn(60, 127);
        render(voices, 1000);
        voices.noteOn(61, 127);
        double[] x = render(voices, 4800)[0];
        assertThat(x[4799]).as("one of the two").isCloseTo(0.5, within(0.001));
    }

    @Test void aOneShotPlaysToItsEndWhateverTheKeyDoes() {
        Voices voices = voices(of(tone().with(Parameter.ONE_SHOT, true)), constant(2000));
        voices.noteOn(60, 127);
        voices.noteOff(60);
        assertThat(render(voices, 1000)[0][900]).isPositive();
        render(voices, 1500);
        assertThat(voices.isSilent()).isTrue();
    }

    @ParameterizedTest @CsvSource({"LOW_PASS, 8000, 500", "HIGH_PASS, 200, 3000"}) void filtersTakeAwayWhatLiesBeyondThem(FilterKind kind, double lost,
            double kept) {
        Zone zone = tone().with(Parameter.FILTER, kind).with(Parameter.CUTOFF, 1000.0);
        double[] level = new double[2];
        for (int i = 0; i < 2; i++) {
            Voices voices = voices(of(zone), Sounds.sine(i == 0 ? lost : kept, 0.5, RATE, RATE), Sounds.sine(i == 0 ? lost : kept, 0.5, RATE, RATE));
            voices.noteOn(60, 127);
            level[i] = Sounds.db(Sounds.rms(render(voices, RATE / 2)[0], RATE / 8, RATE / 2) / (0.5 / Math.sqrt(2)));
        }
        assertThat(level[0]).as("three octaves and more beyond: 12 dB an octave").isLessThan(-25);
        assertThat(level[1]).isCloseTo(0, within(1.0));
    }
}
