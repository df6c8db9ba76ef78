package ablecrate.desktop.keys;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

class KeyScaleTest {
    private final KeyScale scale = KeyScale.of(800, 300, 36, 84);

    @Test void keysAndVelocitiesAreFoundUnderTheirPixels() {
        for (int key = 36; key <= 84; key++)
            assertThat(scale.keyAt((scale.x(key) + scale.x(key + 1)) / 2)).isEqualTo(key);
        for (int velocity = 1; velocity <= 127; velocity++)
            assertThat(scale.velocityAt(scale.y(velocity))).isEqualTo(velocity);
        assertThat(scale.lowestKey()).isEqualTo(36);
        assertThat(scale.highestKey()).isEqualTo(84);
    }

    @Test void whatIsUnderThePointerStaysWhileOneZooms() {
        double x = scale.x(60.5), y = scale.y(100);
        KeyScale near = scale.keysZoomed(0.5, x).velocitiesZoomed(0.25, y);
        assertThat(near.x(60.5)).isCloseTo(x, within(1e-9));
        assertThat(near.y(100)).isCloseTo(y, within(1e-9));
        assertThat(near.highKey() - near.lowKey()).isCloseTo(24.5, within(1e-9));
        assertThat(near.highVelocity() - near.lowVelocity()).isCloseTo(31.75, within(1e-9));
    }

    @Test void nothingLiesBeyondTheKeyboard() {
        KeyScale far = scale.keysZoomed(100, 400).moved(-500).velocitiesZoomed(100, 50);
        assertThat(far.lowestKey()).isZero();
        assertThat(far.highestKey()).isEqualTo(127);
        assertThat(far.lowVelocity()).isEqualTo(0.5);
        assertThat(scale.keysZoomed(0.0001, 400).highKey() - scale.keysZoomed(0.0001, 400).lowKey()).isEqualTo(6);
        assertThat(scale.moved(500).highestKey()).isEqualTo(127);
    }
}
