package ablecrate.codec;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.SndFile;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.instrument.SoundMetadata;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// 12 bit lies at the left of 16-bit words (AIFF 1.3; WAVEFORMATEXTENSIBLE, Microsoft), so that readers that know nothing of it play it all the same.
class TwelveBitTest {
    @TempDir Path folder;

    @ParameterizedTest @ValueSource(strings = {"wav", "aiff"}) void twelveBitsComeBackFromWordsOfSixteen(String format) throws Exception {
        double[] plane = new double[4096];
        for (int i = 0; i < plane.length; i++)
            plane[i] = (i - 2048) / 2048.0;
        Path file = Sounds.write(folder.resolve("a." + format), format, 44_100, Depth.INT_12, SoundMetadata.NONE, plane);
        SoundFile read = SoundFormats.byId(format).orElseThrow().read(file);
        assertThat(read.encoding().depth()).isEqualTo(Depth.INT_12);
        assertThat(Sounds.readAll(read.open())[0]).containsExactly(plane);
        Optional<SndFile> other = SndFile.find();
        if (other.isPresent()) assertThat(other.get().read(file)[0]).as("read by libsndfile").containsExactly(plane);
        if (format.equals("wav")) {
            ByteBuffer header = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
            assertThat(header.getShort(20)).as("extensible").isEqualTo((short) 0xFFFE);
            assertThat(header.getShort(34)).as("bits of a word").isEqualTo((short) 16);
            assertThat(header.getShort(38)).as("bits that are used").isEqualTo((short) 12);
        }
    }
}
