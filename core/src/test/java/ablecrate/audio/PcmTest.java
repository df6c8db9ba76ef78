package ablecrate.audio;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import ablecrate.audio.SampleEncoding.Kind;
import ablecrate.dsp.PeakPyramid;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.ByteOrder;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class PcmTest {
    static Stream<SampleEncoding> encodings() {
        return Stream.of(ByteOrder.LITTLE_ENDIAN, ByteOrder.BIG_ENDIAN)
                .flatMap(order -> Stream.of(new SampleEncoding(Kind.UNSIGNED, 1, 8, order), new SampleEncoding(Kind.SIGNED, 1, 8, order),
                        new SampleEncoding(Kind.SIGNED, 2, 16, order), new SampleEncoding(Kind.SIGNED, 3, 24, order),
                        new SampleEncoding(Kind.SIGNED, 4, 32, order), new SampleEncoding(Kind.FLOAT, 4, 32, order),
                        new SampleEncoding(Kind.FLOAT, 8, 64, order)));
    }

    @ParameterizedTest @MethodSource("encodings") void everyStoredValueSurvives(SampleEncoding encoding) {
        int frames = 40_000;
        byte[] stored = new byte[2 * frames * encoding.containerBytes()], again = new byte[stored.length];
        new Random(7).nextBytes(stored);
        if (encoding.isFloat()) { // random bits hold not-a-numbers, whose payload is no value
            double[][] values = {new double[frames], new double[frames]};
            for (double[] plane : values)
                java.util.Arrays.setAll(plane, n -> (float) Math.sin(n * 0.7) * 3);
            new PcmPacker(encoding).pack(values, frames, stored);
        }
        double[][] planes = new double[2][frames];
        new PcmUnpacker(encoding).unpack(stored, frames, planes, 0);
        PcmPacker packer = new PcmPacker(encoding);
        packer.pack(planes, frames, again);
        assertThat(again).isEqualTo(stored);
        assertThat(packer.clippedSamples()).isZero();
    }

    /// Whole steps are the same samples: read as steps they are the numbers times full scale, and written as steps they are the same bytes.
    @ParameterizedTest @MethodSource("encodings") void stepsAreTheSameSamples(SampleEncoding encoding) {
        PcmUnpacker unpacker = new PcmUnpacker(encoding);
        assertThat(unpacker.hasSteps()).isEqualTo(encoding.kind() == Kind.SIGNED && encoding.containerBytes() > 1);
        for (int channels : new int[]{1, 2, 3})
            for (int frames : new int[]{0, 1, 2, 501}) {
                if (!unpacker.hasSteps()) continue;
                byte[] stored = new byte[channels * frames * encoding.containerBytes()], again = new byte[stored.length];
                new Random(frames).nextBytes(stored);
                double[][] planes = new double[channels][frames];
                int[][] steps = new int[channels][frames];
                unpacker.unpack(stored, frames, planes, 0);
                unpacker.unpackSteps(stored, frames, steps);
                double fullScale = Math.scalb(1.0, encoding.validBits() - 1);
                for (int channel = 0; channel < channels; channel++)
                    for (int i = 0; i < frames; i++)
                        assertThat((double) steps[channel][i]).isEqualTo(planes[channel][i] * fullScale);
                new PcmPacker(encoding).packSteps(steps, frames, again);
                assertThat(again).isEqualTo(stored);
            }
    }

    @Test void whatIsBeyondFullScaleIsClippedAndCounted() {
        PcmPacker packer = new PcmPacker(new SampleEncoding(Kind.SIGNED, 2, 16, ByteOrder.LITTLE_ENDIAN));
        byte[] packed = new byte[8];
        packer.pack(new double[][]{{1.0, -1.0, -1.5, 0.5}}, 4, packed);
        assertThat(packed).containsExactly(0xFF, 0x7F, 0x00, 0x80, 0x00, 0x80, 0x00, 0x40);
        assertThat(packer.clippedSamples()).isEqualTo(2);
    }

    @Test void aShortBufferIsRefusedBeforeAnythingIsTouched() {
        double[][] planes = {{9, 9}};
        assertThatThrownBy(() -> new PcmUnpacker(new SampleEncoding(Kind.SIGNED, 2, 16, ByteOrder.LITTLE_ENDIAN)).unpack(new byte[3], 2, planes, 0))
                .isInstanceOf(IndexOutOfBoundsException.class);
        assertThat(planes[0]).containsExactly(9, 9);
    }

    @Test void aPyramidKnowsTheExtremesOfEveryStretch() throws Exception {
        double[] x = new double[100_000];
        x[70_000] = 0.9;
        x[70_001] = -0.8;
        PeakPyramid pyramid = PeakPyramid.of(Sounds.source(44100, x), () -> false);
        assertThat(pyramid.peak()).isEqualTo((double) 0.9f);
        for (long width : new long[]{64, 700, 5000, 60_000}) {
            assertThat(pyramid.peaks(0, new FrameRange(70_001 - width, 70_002)).high()).isEqualTo(0.9f);
            assertThat(pyramid.peaks(0, new FrameRange(70_001 - width, 70_002)).low()).isEqualTo(-0.8f);
        }
        assertThat(pyramid.peaks(0, new FrameRange(0, 40_000)).high()).isZero();
    }

    /// Any encoding, any number of channels, values far beyond full scale among them, against the definition: to the nearest step, the even one
    /// of two, held at full scale, left-justified.
    @ParameterizedTest @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23,
        24}) void packingIsWhatItsDefinitionSays(
                long seed) {
        Random random = new Random(seed);
        int bytes = random.nextInt(1, 5), bits = 8 * bytes - random.nextInt(bytes == 1 ? 1 : 8), channels = random.nextInt(1, 7),
                frames = random.nextInt(0, 300);
        ByteOrder order = random.nextBoolean() ? ByteOrder.LITTLE_ENDIAN : ByteOrder.BIG_ENDIAN;
        SampleEncoding encoding = new SampleEncoding(Kind.SIGNED, bytes, bits, order);
        double beyond = random.nextInt(4) == 0 ? 1e12 : random.nextInt(3) == 0 ? 1.5 : 0.99;
        double[][] planes = new double[channels][];
        for (int channel = 0; channel < channels; channel++)
            planes[channel] = random.doubles(frames, -beyond, beyond).toArray();
        byte[] packed = new byte[frames * channels * bytes];
        PcmPacker packer = new PcmPacker(encoding);
        packer.pack(planes, frames, packed);
        long clipped = 0, full = 1L << bits - 1;
        for (int frame = 0; frame < frames; frame++)
            for (int channel = 0; channel < channels; channel++) {
                BigDecimal exact = new BigDecimal(planes[channel][frame]).multiply(BigDecimal.valueOf(full)).setScale(0, RoundingMode.HALF_EVEN);
                BigDecimal held = exact.min(BigDecimal.valueOf(full - 1)).max(BigDecimal.valueOf(-full));
                if (held.compareTo(exact) != 0) clipped++;
                long wanted = held.longValueExact() << 8 * bytes - bits, stored = 0;
                for (int b = 0; b < bytes; b++)
                    stored |= (packed[(frame * channels + channel) * bytes + (order == ByteOrder.BIG_ENDIAN ? bytes - 1 - b : b)] & 0xFFL) << 8 * b;
                assertThat(stored << 64 - 8 * bytes >> 64 - 8 * bytes).as(encoding + " " + planes[channel][frame]).isEqualTo(wanted);
            }
        assertThat(packer.clippedSamples()).isEqualTo(clipped);
    }

    /// As the formatter of the platform writes them.
    @Test void figuresAreGroupedByThousands() {
        for (long number : new long[]{0, 7, 999, 1000, 44_100, 999_999, 1_764_124, Long.MAX_VALUE, -1, -999, -1000, -123_456, Long.MIN_VALUE})
            assertThat(Figures.grouped(number)).isEqualTo(String.format(java.util.Locale.ROOT, "%,d", number));
    }
}
