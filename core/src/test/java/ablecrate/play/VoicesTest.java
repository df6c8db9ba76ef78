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
import ablecrate.instrument.KeySwitch;
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
import java.util.OptionalInt;
import java.util.Random;
import java.util.stream.IntStream;
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

    @Test void theKeyswitchPressedLastChooses() {
        Span keys = new Span(24, 25);
        List<Zone> zones = IntStream.of(24, 25).mapToObj(k -> tone().with(Parameter.KEYS, new Span(48, 72)).with(Parameter.SWITCH,
                Optional.of(new KeySwitch(keys, k, OptionalInt.of(25), "")))).toList();
        Voices voices = voices(of(zones.get(0), zones.get(1)), constant(100));
        assertThat(voices.noteOn(60, 100)).containsExactly(zones.get(1));
        assertThat(voices.noteOn(24, 100)).as("the switch itself is silent").isEmpty();
        voices.noteOn(47, 100);
        assertThat(voices.noteOn(60, 100)).containsExactly(zones.get(0));
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

    /// A ramp tells which frame is heard: n thousandths. On both sides, so that the middle is as loud as the file.
    private static double[] heardFrames(Zone zone, int frames, int count) {
        double[] ramp = Sounds.signal(frames, n -> n / 1000.0);
        Voices voices = voices(of(zone), ramp, ramp);
        voices.noteOn(60, 127);
        return Arrays.stream(render(voices, count)[0]).map(v -> Math.rint(v * 1000)).toArray();
    }

    private static double[] frames(int... of) { return Arrays.stream(of).asDoubleStream().toArray(); }

    @Test void aZonePlaysFromItsStartToItsEndOrBack() {
        Zone part = tone().with(Parameter.START, 100L).with(Parameter.END, Optional.of(105L));
        assertThat(heardFrames(part, 500, 8)).isEqualTo(frames(100, 101, 102, 103, 104, 0, 0, 0));
        assertThat(heardFrames(part.with(Parameter.BACKWARD, true), 500, 8)).isEqualTo(frames(104, 103, 102, 101, 100, 0, 0, 0));
        assertThat(heardFrames(tone().with(Parameter.START, 900L), 500, 3)).as("a start behind the end is silence").isEqualTo(frames(0, 0, 0));
    }

    /// Forward: the end is followed by the start. Back and forth: the frames at which it turns are heard once (common practice).
    @Test void loopsGoRoundOrBackAndForth() {
        Zone forward = tone().with(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(2, 5), LoopMode.FORWARD))),
                alternating = tone().with(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(2, 5), LoopMode.ALTERNATING)));
        assertThat(heardFrames(forward, 9, 12)).isEqualTo(frames(0, 1, 2, 3, 4, 2, 3, 4, 2, 3, 4, 2));
        assertThat(heardFrames(alternating, 9, 12)).isEqualTo(frames(0, 1, 2, 3, 4, 3, 2, 3, 4, 3, 2, 3));
        Zone beyond = tone().with(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(2, 50), LoopMode.FORWARD)));
        assertThat(heardFrames(beyond, 9, 11)).as("a loop that reaches beyond the sound is none").isEqualTo(frames(0, 1, 2, 3, 4, 5, 6, 7, 8, 0, 0));
    }

    /// Blended over its last ten frames into what lies before its start, a loop has no step left: here it would be one of 0.6.
    @Test void aLoopCrossfadeTakesTheStepAway() {
        double[] x = Sounds.signal(200, n -> n < 100 ? 0.1 : 0.1 + (n - 100) * 0.01);
        Zone looped = tone().with(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(100, 160), LoopMode.FORWARD)));
        double[] largest = new double[2];
        for (int i = 0; i < 2; i++) {
            Voices voices = voices(of(i == 0 ? looped : looped.with(Parameter.LOOP_CROSSFADE, 10.0 / RATE)), x, x);
            voices.noteOn(60, 127);
            double[] heard = render(voices, 400)[0];
            for (int n = 1; n < heard.length; n++)
                largest[i] = Math.max(largest[i], Math.abs(heard[n] - heard[n - 1]));
        }
        assertThat(largest[0]).isCloseTo(0.59, within(0.01));
        assertThat(largest[1]).as("a tenth of it each frame").isLessThan(0.1);
    }

    /// Mono by equal power, stereo by balance.
    @ParameterizedTest @CsvSource({"-100,1,0,1,0", "-50,0.924,0.383,1,0.5", "0,0.707,0.707,1,1", "50,0.383,0.924,0.5,1",
        "100,0,1,0,1"}) void panGoesFromSideToSide(
                double pan, double left, double right, double stereoLeft, double stereoRight) {
        Zone zone = tone().with(Parameter.PAN, pan);
        for (int channels = 1; channels <= 2; channels++) {
            Voices voices = channels == 1 ? voices(of(zone), constant(100)) : voices(of(zone), constant(100), constant(100));
            voices.noteOn(60, 127);
            double[][] heard = render(voices, 50);
            assertThat(heard[0][40] / 0.5).isCloseTo(channels == 1 ? left : stereoLeft, within(0.001));
            assertThat(heard[1][40] / 0.5).isCloseTo(channels == 1 ? right : stereoRight, within(0.001));
        }
    }

    /// Gain in decibels; a velocity that does not matter; one that makes it softer.
    @ParameterizedTest @CsvSource({"-6.0206,100,127,0.5", "0,0,1,1", "0,50,32,0.252", "0,-100,127,0.01"}) void gainAndVelocityTrackingSetTheLevel(double gainDb,
            double tracking, int velocity, double factor) {
        Voices voices = voices(of(tone().with(Parameter.GAIN, gainDb).with(Parameter.VELOCITY_TRACKING, tracking)), constant(100), constant(100));
        voices.noteOn(60, velocity);
        assertThat(render(voices, 50)[0][40] / 0.5).isCloseTo(factor, within(0.01));
    }

    /// Cents a key, tuning on top; without tracking every key sounds alike.
    @ParameterizedTest @CsvSource({"60,100,0,480", "72,100,0,960", "72,50,0,678.8", "90,0,0,480", "60,100,1200,960",
        "48,100,100,254.3"}) void keysTrackThePitch(
                int key, double tracking, double cents, double hz) {
        double[] sine = Sounds.sine(480, 0.5, RATE, 4 * RATE);
        Voices voices = voices(of(tone().with(Parameter.KEY_TRACKING, tracking).with(Parameter.TUNING, cents)), sine);
        voices.noteOn(key, 127);
        double[] heard = render(voices, RATE)[0];
        int crossings = 0;
        for (int n = 1; n < heard.length; n++)
            if (heard[n - 1] <= 0 && heard[n] > 0) crossings++;
        assertThat((double) crossings).isCloseTo(hz, within(1.0));
    }

    @Test void thePedalHoldsWhatIsLetGo() {
        Voices voices = voices(of(tone(), tone().with(Parameter.TRIGGER, Trigger.RELEASE).with(Parameter.GAIN, -40.0)), constant(RATE), constant(RATE));
        voices.sustain(true);
        voices.noteOn(60, 127);
        voices.noteOff(60);
        assertThat(render(voices, 4800)[0][4700]).as("held").isCloseTo(0.5, within(1e-6));
        voices.noteOn(60, 127);
        assertThat(render(voices, 4800)[0][4700]).as("struck anew, with the release sample of the one before").isCloseTo(0.505, within(1e-6));
        voices.noteOff(60);
        voices.sustain(false);
        assertThat(render(voices, 4800)[0][4700]).as("the release sample alone").isCloseTo(0.005, within(1e-6));
    }

    /// Five times a second a semitone up and down, after a tenth of a second.
    @Test void vibratoMovesThePitchAfterItsDelay() {
        double[] sine = Sounds.sine(1000, 0.5, RATE, 2 * RATE);
        Voices voices = voices(of(tone().with(Parameter.VIBRATO_DEPTH, 100.0).with(Parameter.VIBRATO_RATE, 5.0).with(Parameter.VIBRATO_DELAY, 0.1)), sine);
        voices.noteOn(60, 127);
        double[] heard = render(voices, RATE)[0];
        List<Double> hz = new ArrayList<>();
        for (int from = 0; from + RATE / 50 <= RATE; from += RATE / 50) {
            int crossings = 0;
            for (int n = from + 1; n < from + RATE / 50; n++)
                if (heard[n - 1] <= 0 && heard[n] > 0) crossings++;
            hz.add(crossings * 50.0);
        }
        assertThat(hz.subList(0, 5)).as("before").allSatisfy(h -> assertThat(h).isCloseTo(1000, within(51.0)));
        assertThat(hz.subList(5, 50).stream().mapToDouble(h -> h).max().orElseThrow()).isBetween(1040.0, 1110.0);
        assertThat(hz.subList(5, 50).stream().mapToDouble(h -> h).min().orElseThrow()).isBetween(890.0, 960.0);
    }
}
