package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import java.util.OptionalDouble;
import java.util.function.Function;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Levels that are foretold are those that are measured afterwards.
class LevelsTest {
    private static Levels of(double gain) {
        double[] x = Sounds.signal(4 * 48_000, n -> gain * (0.02 + (0.1 + n / 1e6) * Math.sin(0.06 * n) + 0.05 * Math.sin(1.3 * n)));
        LevelMeter meter = new LevelMeter(48_000, 1);
        meter.add(new double[][]{x}, 0, x.length);
        return meter.finish();
    }

    private static final Stream<Function<Levels, OptionalDouble>> measures() {
        return Stream.of(Levels::samplePeakDbfs, Levels::truePeakDbtp, Levels::loudnessIntegratedLufs, Levels::loudnessMomentaryMaxLufs,
                Levels::loudnessShortTermMaxLufs, Levels::loudnessRangeLu, Levels::rmsDbfs);
    }

    @ParameterizedTest @ValueSource(doubles = {-20, -6.02, 0, 3.5}) void aGainMovesEveryMeasureAsMuchAndTheRangeNot(double db) {
        Levels foretold = of(1).plus(db), measured = of(Math.pow(10, db / 20));
        measures().forEach(m -> assertThat(m.apply(foretold).orElseThrow()).isCloseTo(m.apply(measured).orElseThrow(), within(1e-9)));
        assertThat(foretold.dcOffset()).isCloseTo(measured.dcOffset(), within(1e-12));
        for (LevelMeasure measure : LevelMeasure.values())
            assertThat(foretold.by(measure).orElseThrow()).isCloseTo(measured.by(measure).orElseThrow(), within(1e-9));
    }

    @Test void whatIsNotDefinedStaysSo() {
        LevelMeter nothing = new LevelMeter(48_000, 1);
        nothing.add(new double[1][100], 0, 100);
        Levels silence = nothing.finish();
        assertThat(silence.samplePeakDbfs()).isEmpty();
        assertThat(silence.loudnessIntegratedLufs()).isEmpty();
        assertThat(silence.plus(6)).isEqualTo(silence);
        assertThat(silence.rounded()).isEqualTo(silence);
    }

    @Test void figuresAreShownToThousandths() {
        Levels rounded = of(1).rounded();
        measures().forEach(m -> assertThat(m.apply(rounded).orElseThrow() * 1000).isCloseTo(Math.rint(m.apply(of(1)).orElseThrow() * 1000), within(1e-6)));
    }
}
