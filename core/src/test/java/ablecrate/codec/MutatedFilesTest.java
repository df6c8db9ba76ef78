package ablecrate.codec;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Fixtures;
import ablecrate.audio.FrameSource;
import ablecrate.format.InstrumentFile;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Files spoilt by chance, a thousand of each: read or refused with a message, never a fault of ours, never a large allocation (the heap of the tests is small).
class MutatedFilesTest {
    private static final int EACH = 1000;

    @TempDir Path folder;

    @ParameterizedTest @ValueSource(strings = {"metadata/wav_smpl_inst_cue_adtl.wav", "metadata/aiff_inst_mark.aif", "metadata/rf64_bext.wav",
        "metadata/wav_bext.wav", "metadata/sf2_tiny_valid.sf2", "made/harp.sfz", "made/tiny.dls",
        "lossless/x44_flac16.flac", "lossless/x44_alac16.m4a", "lossless/x44_caf_alac16.caf", "lossless/x44_w64_pcm24.w64", "metadata/sds_loop.sds",
        "lossy/m48_vorbis_q5.ogg", "lossy/m48_opus.opus", "lossy/m48_mp3_cbr128_mono.mp3", "lossy/m48_aac_lc_editlist.m4a"}) void spoiltFilesAreReadOrRefused(
                String name)
                throws Exception {
        byte[] whole = Files.readAllBytes(Fixtures.path(name));
        Random random = new Random(name.hashCode());
        Path file = Files.createDirectories(folder.resolve("made")).resolve(Path.of(name).getFileName());
        for (String played : List.of("wav_instrument.wav", "wav_cue.wav"))
            Files.copy(Fixtures.path("metadata/" + played), Files.createDirectories(folder.resolve("metadata")).resolve(played));
        int readable = 0;
        for (int i = 0; i < EACH; i++) {
            Files.write(file, spoilt(whole, random));
            Gathered gathered = Gatherer.read(new Gathered(file, file.getFileName(), new Gathered.Content.Unread()));
            switch (gathered.content()) {
                case Gathered.Content.Sound(SoundFile sound) -> {
                    readable++;
                    readToTheEnd(sound);
                }
                case Gathered.Content.Instruments(InstrumentFile instruments) -> {
                    readable++;
                    for (int sample = 0; sample < instruments.samples().size(); sample++)
                        if (instruments.sound(sample).isPresent()) readToTheEnd(instruments.sound(sample).get());
                }
                case Gathered.Content.Links _ -> {}
                case Gathered.Content.Refused(String id, _, String reason) ->
                    assertThat(id.equals(Gatherer.FAULT) ? "" : reason).isNotBlank().doesNotContain("Exception", "null");
                case Gathered.Content.Unread() -> throw new AssertionError("not looked at");
            }
        }
        // Of the Vorbis file two thirds are headers, which nothing can replace.
        assertThat(readable).as("much damage is survived").isGreaterThan(EACH / 8);
    }

    private static byte[] spoilt(byte[] whole, Random random) {
        byte[] bytes = random.nextInt(4) == 0 ? Arrays.copyOf(whole, random.nextInt(whole.length)) : whole.clone();
        // Headers are where damage has consequences; banks have theirs at the end.
        int reach = random.nextBoolean() ? Math.min(bytes.length, 600) : bytes.length, start = random.nextInt(3) == 0 ? Math.max(0, bytes.length - reach) : 0;
        for (int n = 1 + random.nextInt(6); n > 0 && reach > 0; n--) {
            int at = start + random.nextInt(reach);
            bytes[at] = switch (random.nextInt(3)) {
                case 0 -> (byte) random.nextInt(256);
                case 1 -> (byte) 0xFF;
                default -> (byte) (bytes[at] ^ 1 << random.nextInt(8));
            };
        }
        return bytes;
    }

    private static void readToTheEnd(SoundFile sound) throws IOException {
        if (sound.channels() > 64) return; // a header may claim 65,535; a block of that is no test
        double[][] block = new double[sound.channels()][4096];
        long frames = 0;
        try (FrameSource source = sound.open()) {
            for (int got; (got = source.read(block, 0, 4096)) > 0;)
                frames += got;
        }
        assertThat(frames).isEqualTo(sound.frames());
    }
}
