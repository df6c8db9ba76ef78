package ablecrate.desktop.bench;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.FrameRange;
import org.junit.jupiter.api.Test;

class WaveScaleTest {
    private final WaveScale hour = WaveScale.whole(48_000L * 3600, 1000);

    @Test void theWholeSoundFillsTheWidth() {
        assertThat(hour.frameAt(0)).isZero();
        assertThat(hour.xOf(48_000L * 3600)).isCloseTo(1000, within(1e-9));
        assertThat(hour.column(999).end()).isEqualTo(48_000L * 3600);
    }

    @Test void whatIsUnderTheMouseStaysThere() {
        WaveScale near = hour;
        for (int i = 0; i < 40; i++) {
            double before = near.frameAt(333);
            near = near.zoomed(0.7, 333);
            assertThat(near.frameAt(333)).isCloseTo(before, within(1e-3));
        }
        assertThat(near.framesPerPixel()).isGreaterThanOrEqualTo(1.0 / 16);
    }

    @Test void nothingIsShownBeyondTheEnds() {
        WaveScale near = hour.zoomed(0.01, 0);
        assertThat(near.moved(-500).first()).isZero();
        assertThat(near.moved(1e9).frameAt(1000)).isCloseTo(48_000L * 3600, within(1.0));
        assertThat(near.zoomed(1e9, 700)).isEqualTo(hour);
    }

    @Test void neighbouringColumnsLeaveNoFrameOut() {
        WaveScale scale = hour.zoomed(0.013, 480);
        for (int x = 0; x < 999; x++) {
            FrameRange a = scale.column(x), b = scale.column(x + 1);
            assertThat(b.start()).isLessThanOrEqualTo(a.end());
        }
    }
}
