package ablecrate.standins;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Whatever lies on a card, a device loads it or says why not; what it has loaded it plays.
@Execution(ExecutionMode.CONCURRENT) class SpoiltCardsTest {
    private static final int TRIES = 800;

    @TempDir Path card;

    @ParameterizedTest @CsvSource({"bank-player,a.sf2", "rack-sampler,A.sds", "card-sampler,Glass/a.wav", "card-sampler,Glass/Glass.preset",
        "pocket-sampler,A.wav"}) void bytesThatAreNotAsTheyWere(
                String id, String name) throws Exception {
        Path file = Files.createDirectories(card.resolve(name).getParent()).resolve(card.resolve(name).getFileName());
        switch (id) {
            case "bank-player" -> Files.write(file, new MoreCardRulesTest.Bank().bytes());
            case "rack-sampler" -> Files.write(file, MoreCardRulesTest.dump());
            case "pocket-sampler" -> MoreCardRulesTest.mapped(file, 0, 1099);
            default -> {
                MoreCardRulesTest.mapped(card.resolve("Glass/a.wav"), 0, 1099);
                Files.writeString(card.resolve("Glass/Glass.preset"), MoreCardRulesTest.PRESET);
            }
        }
        Device device = Device.byId(id).orElseThrow();
        assertThat(device.load(card).refusals()).as("as it was").isEmpty();
        byte[] whole = Files.readAllBytes(file);
        Random random = new Random(20);
        int loaded = 0, refused = 0;
        for (int i = 0; i < TRIES; i++) {
            Files.write(file, spoilt(whole, random));
            Device.Loaded now = device.load(card);
            for (Preset preset : now.presets())
                play(preset);
            loaded += now.presets().size();
            refused += now.refusals().size();
        }
        assertThat(refused).as("refused of " + TRIES).isPositive();
        assertThat(loaded).as("loaded of " + TRIES).isPositive();
    }

    /// Some bytes otherwise, mostly where the structure is; at times the end is gone.
    private static byte[] spoilt(byte[] whole, Random random) {
        byte[] spoilt = random.nextInt(8) == 0 ? Arrays.copyOf(whole, random.nextInt(whole.length)) : whole.clone();
        for (int i = 1 + random.nextInt(4); i > 0 && spoilt.length > 0; i--) {
            int at = random.nextBoolean()
                    ? random.nextInt(spoilt.length)
                    : random.nextBoolean() ? random.nextInt(Math.min(60, spoilt.length)) : Math.max(0, spoilt.length - 1 - random.nextInt(500));
            spoilt[at] = (byte) (random.nextBoolean() ? random.nextInt(256) : random.nextBoolean() ? 0xFF : 0x7F);
        }
        return spoilt;
    }

    private static void play(Preset preset) {
        DevicePlayer player = new DevicePlayer(preset, 44_100);
        double[][] out = new double[2][512];
        for (int key : new int[]{0, 60, 69, 127})
            player.noteOn(key, 100);
        player.bend(1);
        player.render(out, 0, 512);
        player.bend(-1);
        player.render(out, 0, 512);
    }

    @Test void aCardThatIsGone() throws Exception {
        MoreCardRulesTest.mapped(card.resolve("A.wav"), 0, 1099);
        Preset preset = new PocketSampler().load(card).presets().getFirst();
        Files.delete(card.resolve("A.wav"));
        assertThatThrownBy(() -> new DevicePlayer(preset, 44_100).noteOn(24, 100)).isInstanceOf(UncheckedIOException.class);
        assertThatThrownBy(() -> new PocketSampler().load(card.resolve("nowhere"))).isInstanceOf(IOException.class);
    }
}
