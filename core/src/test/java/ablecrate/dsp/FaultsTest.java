package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.FrameRange;
import ablecrate.codec.FileKind;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Faults that were put into a sound are found where they are; sounds without are left in peace; what is mended is nearly what was there.
class FaultsTest {
    private static final int RATE = 44_100;

    /// A few partials that swell and fade, as an instrument's.
    private static double[] music(int frames, long seed) {
        Random random = new Random(seed);
        double[] hz = {220 + 100 * random.nextDouble(), 523, 880 + 200 * random.nextDouble(), 1760, 3300}, phase = random.doubles(5, 0, 6).toArray();
        return Sounds.signal(frames, n -> {
            double sum = 0;
            for (int i = 0; i < hz.length; i++)
                sum += 0.18 / (i + 1) * Math.sin(phase[i] + 2 * Math.PI * hz[i] * n / RATE);
            return Math.rint(32_768 * sum * (0.6 + 0.4 * Math.sin(2 * Math.PI * n / RATE))) / 32_768;
        });
    }

    private static List<FaultFinder.Fault> find(double[]... planes) {
        FaultFinder finder = new FaultFinder(RATE, planes.length);
        // Blocks are plumbing: odd sizes find the same.
        for (int at = 0; at < planes[0].length; at += 1777) {
            int count = Math.min(1777, planes[0].length - at);
            double[][] block = new double[planes.length][];
            for (int c = 0; c < planes.length; c++)
                block[c] = java.util.Arrays.copyOfRange(planes[c], at, at + count);
            finder.add(block, count);
        }
        return finder.finish();
    }

    @Test void aCleanSoundHasNoFaults() {
        for (int seed = 0; seed < 10; seed++)
            assertThat(find(music(60_000, seed))).isEmpty();
    }

    /// Bursts that begin at full height, sweeps, tones, silence: none of them is damage.
    @ParameterizedTest @ValueSource(strings = {"ref/s44_stereo_44k1_pcm24.wav", "ref/m48_mono_48k_pcm24.wav", "ref/x44_stereo_44k1_pcm24.wav",
        "metadata/wav_instrument.wav"}) void attacksAndTonesAreNoFaults(String name) throws Exception {
        var file = ((FileKind.Sound) FileKind.of(Fixtures.path(name))).format().read(Fixtures.path(name));
        assertThat(find(Sounds.readAll(file.open()))).isEmpty();
    }

    @ParameterizedTest @ValueSource(ints = {1, 2, 5, 20, 60}) void clicksAreFoundWhereTheyAre(int length) {
        Random random = new Random(length);
        for (int seed = 0; seed < 20; seed++) {
            double[] x = music(60_000, seed);
            int at = 5000 + random.nextInt(50_000);
            for (int i = at; i < at + length; i++)
                x[i] += (random.nextBoolean() ? 1 : -1) * (0.15 + 0.3 * random.nextDouble());
            List<FaultFinder.Fault> found = find(x);
            assertThat(found).as("seed " + seed + ", click at " + at).isNotEmpty().allSatisfy(f -> {
                assertThat(f.kind()).isEqualTo(FaultFinder.Kind.CLICK);
                assertThat(f.frames().start()).isBetween((long) at - 2, (long) at + length);
                assertThat(f.frames().end()).isBetween((long) at, (long) at + length + 2);
            });
        }
    }

    @Test void aRattleAndACoarseFadeAreNoDamage() {
        Random random = new Random(9);
        double[] rattle = music(60_000, 3), coarse = music(60_000, 4);
        for (int i = 0; i < 60; i++)
            rattle[800 * i + random.nextInt(400)] += 0.5;
        for (int i = 0; i < coarse.length; i++)
            coarse[i] = Math.rint(coarse[i] * Math.exp(-i / 8000.0) * 128) / 128;
        assertThat(find(rattle)).isEmpty();
        assertThat(find(coarse)).isEmpty();
    }

    @Test void dropoutsRepeatsClipsAndStuckValuesAreFoundWhereTheyAre() {
        double[] dropout = music(60_000, 1), repeat = music(60_000, 2), clip = music(60_000, 3), stuck = music(60_000, 4);
        int start = 20_000;
        while (Math.abs(dropout[start - 1]) < 0.05 || Math.abs(dropout[start + 500]) < 0.05)
            start++;
        java.util.Arrays.fill(dropout, start, start + 500, 0);
        System.arraycopy(repeat, 30_000, repeat, 30_512, 512);
        for (int i = 0; i < clip.length; i++)
            clip[i] = Math.clamp(clip[i] * 4, -1, 32_767 / 32_768.0);
        java.util.Arrays.fill(stuck, 40_000, 45_000, stuck[40_000] + 0.2);
        assertThat(find(dropout)).contains(new FaultFinder.Fault(FaultFinder.Kind.DROPOUT, new FrameRange(start, start + 500)));
        assertThat(find(repeat)).anySatisfy(f -> {
            assertThat(f.kind()).isEqualTo(FaultFinder.Kind.REPEAT);
            assertThat(f.frames()).isEqualTo(new FrameRange(30_512, 31_024));
        });
        assertThat(find(clip)).isNotEmpty().anySatisfy(f -> assertThat(f.kind()).isEqualTo(FaultFinder.Kind.CLIPPED));
        assertThat(find(stuck)).contains(new FaultFinder.Fault(FaultFinder.Kind.STUCK, new FrameRange(40_000, 45_000)));
    }

    /// Up to 2 ms come back within −40 dB of the sound, wherever blocks end.
    @ParameterizedTest @ValueSource(ints = {1, 5, 30, 88}) void whatIsMendedIsNearlyWhatWasThere(int length) throws Exception {
        double[] whole = music(60_000, 7), spoilt = whole.clone();
        List<FrameRange> clicks = java.util.stream.IntStream.range(0, 40).mapToObj(i -> new FrameRange(1000 + 1453L * i, 1000 + 1453L * i + length)).toList();
        for (FrameRange click : clicks)
            java.util.Arrays.fill(spoilt, (int) click.start(), (int) click.end(), 0.9);
        double[] mended = Sounds.readAll(new ClickMender(Sounds.source(RATE, spoilt), clicks))[0];
        double error = 0, energy = 0;
        for (FrameRange click : clicks)
            for (int i = (int) click.start(); i < click.end(); i++) {
                error += Math.pow(mended[i] - whole[i], 2);
                energy += whole[i] * whole[i];
            }
        assertThat(10 * Math.log10(error / energy)).isLessThan(-40);
        for (int i = 0; i < whole.length; i++) {
            int frame = i;
            if (clicks.stream().noneMatch(c -> frame >= c.start() && frame < c.end())) assertThat(mended[i]).as("frame " + i).isCloseTo(whole[i], within(0.0));
        }
    }

    /// Clicks of 1 to 12 frames (moved, held, or noise) in tones and drums: found from edge to edge, filled in with at least 20 dB less error, and no longer
    /// found; where one is not found, nothing is changed.
    @Test void clicksAreMendedFromEdgeToEdge() throws Exception {
        int found = 0, all = 0;
        for (int seed = 0; seed < 40; seed++) {
            Random random = new Random(seed);
            double[] whole = seed % 2 == 0 ? music(60_000, seed) : drum(random), spoilt = whole.clone();
            int at = 20_000 + random.nextInt(20_000), length = 1 + random.nextInt(12), kind = random.nextInt(3);
            double height = (random.nextBoolean() ? 1 : -1) * (0.3 + 0.4 * random.nextDouble());
            for (int i = at; i < at + length; i++)
                spoilt[i] = kind == 0 ? whole[i] + height : kind == 1 ? height : whole[i] + height * (i == at ? 1 : 2 * random.nextDouble() - 1);
            all++;
            List<FrameRange> clicks = find(spoilt).stream().filter(f -> f.kind() == FaultFinder.Kind.CLICK)
                    .map(f -> ClickEdges.of(spoilt, (int) f.frames().start(), 88).orElse(f.frames())).toList();
            double[] mended = Sounds.readAll(new ClickMender(Sounds.source(RATE, spoilt), clicks))[0];
            assertThat(find(mended)).as("seed " + seed).noneMatch(f -> f.kind() == FaultFinder.Kind.CLICK);
            if (clicks.isEmpty()) continue;
            found++;
            double before = 0, after = 0;
            for (int i = at; i < at + length; i++) {
                before += Math.pow(spoilt[i] - whole[i], 2);
                after += Math.pow(mended[i] - whole[i], 2);
            }
            assertThat(10 * Math.log10(before / Math.max(after, 1e-12))).as("seed " + seed + ": " + clicks).isGreaterThan(20);
        }
        assertThat(found).isGreaterThan(all * 9 / 10);
    }

    private static double[] drum(Random random) {
        double hz = 60 + random.nextInt(200);
        return Sounds.signal(60_000, n -> Math.rint(32_768 * (0.5 * Math.exp(-n / 12_000.0) * Math.sin(2 * Math.PI * hz * n / RATE)
                + 0.1 * Math.exp(-n / 800.0) * random.nextGaussian())) / 32_768);
    }
}
