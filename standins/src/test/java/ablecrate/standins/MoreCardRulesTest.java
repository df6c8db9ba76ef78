package ablecrate.standins;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Devices whose files hold more than sounds: for each rule a card that breaks just that rule. The bytes are laid out here, by the specifications.
class MoreCardRulesTest {
    @TempDir Path card;

    private static ByteBuffer little(int bytes) { return ByteBuffer.allocate(bytes).order(ByteOrder.LITTLE_ENDIAN); }

    /// A chunk at the end of a WAV file.
    private static void append(Path wav, String id, ByteBuffer data) throws Exception {
        byte[] before = Files.readAllBytes(wav);
        ByteBuffer all = little(before.length + 8 + data.capacity() + (data.capacity() & 1));
        all.put(before).put(id.getBytes(StandardCharsets.US_ASCII)).putInt(data.capacity()).put(data.array());
        all.putInt(4, all.capacity() - 8);
        Files.write(wav, all.array());
    }

    /// Root 69, and 25 cents sharp; a loop of frames 100 to 1099, the last included; keys 60 to 72.
    static void mapped(Path wav, int loopType, int loopLast) throws Exception {
        CardRulesTest.wav(wav, 44_100, 16, 1, 4410);
        append(wav, "smpl", little(60).putInt(12, 69).putInt(16, 0x40000000).putInt(28, 1).putInt(40, loopType).putInt(44, 100).putInt(48, loopLast));
        append(wav, "inst", little(7).put(2, (byte) -6).put(3, (byte) 60).put(4, (byte) 72).put(5, (byte) 1).put(6, (byte) 100));
    }

    static final String PRESET = """
            {"format": "preset 1", "name": "Glass", "kind": "keys", "sounds": [{"file": "a.wav", "chokeGroup": 1}]}""";

    private void preset(String text) throws Exception { Files.writeString(Files.createDirectories(card.resolve("Glass")).resolve("Glass.preset"), text); }

    private Device.Loaded sampler() throws Exception { return new CardSampler().load(card); }

    @Test void aSoundIsPlayedAsItsChunksSay() throws Exception {
        preset(PRESET);
        mapped(card.resolve("Glass/a.wav"), 1, 1099);
        assertThat(sampler().refusals()).isEmpty();
        Preset.Slot slot = sampler().presets().getFirst().slots().getFirst();
        assertThat(slot.root()).isEqualTo(69);
        assertThat(slot.cents()).as("a player lowers what is sharp").isEqualTo(-25);
        assertThat(slot.gainDb()).isEqualTo(-6);
        assertThat(new int[]{slot.low(), slot.high(), slot.softest(), slot.loudest(), slot.group()}).containsExactly(60, 72, 1, 100, 1);
        assertThat(slot.loop()).isEqualTo(new Preset.Loop(100, 1100, true, 0));
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"preset 1|preset 2|format 'preset 2'; reads 'preset 1'",
        "Glass|A name of more than 24 letters|name of 30 characters; has room for 24",
        "keys|pads|kind 'pads'; plays 'slots' and 'keys'", "keys|slots|sound 1: 'a.wav' is no one-shot on one key, as slots are",
        "chokeGroup|choke|sound 1: 'choke' is not known in a sound",
        "a.wav|b.wav|sound 1: 'b.wav' is missing", "a.wav|../a.wav|sound 1: file name '../a.wav'; up to 24 letters, digits, spaces, _ and -, and .wav",
        "\"kind\"|\"channel\": 17, \"kind\"|channel 17; listens on 1 to 16", "\"kind\"|\"voices\": \"two\", \"kind\"|voices 'two'; plays 'poly' and 'mono'",
        "\"kind\"|\"bendKeys\": 25, \"kind\"|a bend of 25 keys; bends by 0 to 24",
        "\"kind\"|\"wheelVibratoCents\": 1201, \"kind\"|a wheel to vibrato of 1201 cents; takes 0 to 1200",
        "\"kind\"|\"interpolation\": \"nearest\", \"kind\"|interpolation 'nearest'; plays 'straight' and 'smooth'",
        "[{\"file\": \"a.wav\", \"chokeGroup\": 1}]|[]|0 sounds; has room for 64"}) void whatAPresetGetsWrongIsNamed(String right, String wrong, String reason)
                throws Exception {
        preset(PRESET.replace(right, wrong));
        mapped(card.resolve("Glass/a.wav"), 0, 1099);
        assertThat(sampler().presets()).isEmpty();
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo(reason));
    }

    @Test void whatItsSoundsGetWrong() throws Exception {
        preset(PRESET);
        mapped(card.resolve("Glass/a.wav"), 2, 1099);
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("sound 1: loop of type 2"));
        mapped(card.resolve("Glass/a.wav"), 0, 4410);
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("sound 1: loop 100 to 4411 of 4410 frames"));
        CardRulesTest.wav(card.resolve("Glass/a.wav"), 44_100, 16, 1, 4410);
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("sound 1: 'a.wav' says no root key"));
        mapped(card.resolve("Glass/a.wav"), 0, 1099);
        Files.writeString(card.resolve("Glass/notes.txt"), "where it was recorded");
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("'notes.txt' is not listed"));
        Files.delete(card.resolve("Glass/Glass.preset"));
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("no file 'Glass.preset' in it"));
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"KICK.wav|44100|16|1|4410|", "KICK.WAV|22050|16|1|4410|",
        "Kick.wav|44100|16|1|4410|file name; up to 8",
        "LONG_NAME.wav|44100|16|1|4410|file name; up to 8", "KICK.wav|48000|16|1|4410|48000 Hz; plays", "KICK.wav|44100|24|1|4410|24 bit; plays",
        "KICK.wav|44100|16|2|4410|2 channels; plays", "KICK.wav|44100|16|1|1000001|memory full: 2000002 of 2000000",
        "KIT/KICK.wav|44100|16|1|4410|a folder"}) void pocketsTakeWhatTheyTake(
                String path, int rate, int bits, int channels, int frames, String reason) throws Exception {
        CardRulesTest.wav(card.resolve(path), rate, bits, channels, frames);
        told(new PocketSampler().load(card), reason);
    }

    private static void told(Device.Loaded loaded, String reason) {
        if (reason == null)
            assertThat(loaded.refusals()).isEmpty();
        else
            assertThat(loaded.refusals()).singleElement().satisfies(r -> assertThat(r.reason()).startsWith(reason));
        assertThat(loaded.presets()).hasSize(reason == null ? 1 : 0);
    }

    /// A dump of 100 words of 16 bits, 40 to a packet: a ramp. Byte by byte after the MIDI 1.0 detailed specification.
    static byte[] dump() {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        // Number 5, 16 bits, 22,676 ns (01 31 14 in sevens), 100 words, loop 10 to 89, forward.
        out.writeBytes(new byte[]{(byte) 0xF0, 0x7E, 0, 1, 5, 0, 16, 0x14, 0x31, 1, 100, 0, 0, 10, 0, 0, 89, 0, 0, 0, (byte) 0xF7});
        for (int packet = 0; packet < 3; packet++) {
            byte[] one = new byte[127];
            one[0] = (byte) 0xF0;
            one[1] = 0x7E;
            one[3] = 2;
            one[4] = (byte) packet;
            for (int word = 0; word < 40 && packet * 40 + word < 100; word++) {
                int value = 0x8000 + 256 * (packet * 40 + word) << 5;
                for (int i = 0; i < 3; i++)
                    one[5 + 3 * word + i] = (byte) (value >> 14 - 7 * i & 0x7F);
            }
            for (int i = 1; i < 125; i++)
                one[125] ^= one[i];
            one[126] = (byte) 0xF7;
            out.writeBytes(one);
        }
        return out.toByteArray();
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"6|16|", "0|0|no dump header", "6|7|words of 7 bits; takes 8 to 16", "9|0|a period of 6292 ns",
        "10|0|no sound in it", "19|3|loop of kind 3",
        "16|100|loop 10 to 100 of 100 words", "16|20|loop of 11 words; the shortest is 16", "10|121|it ends after 3 of 4 packets", "26|9|packet 0 is damaged",
        "25|1|packet 0 has the number 1"}) void racksTakeWhatIsSent(int at, int value, String reason) throws Exception {
        byte[] dump = dump();
        dump[at] = (byte) value;
        Files.write(card.resolve("RAMP.sds"), dump);
        told(new RackSampler().load(card), reason);
    }

    @Test void aNumberThatIsTakenIsRefusedAndWordsAreWhatTheyWere() throws Exception {
        Files.write(card.resolve("A.sds"), dump());
        Files.write(card.resolve("B.sds"), dump());
        Device.Loaded loaded = new RackSampler().load(card);
        assertThat(loaded.refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("number 5 is that of 'A.sds', which it would replace"));
        double[] words = loaded.presets().getFirst().slots().getFirst().sound().planes()[0];
        for (int n = 0; n < 100; n++)
            assertThat(words[n]).isEqualTo(n * 256 / 32_768.0);
    }

    /// A bank with one sine on one instrument of one preset, laid out after SoundFont 2.04.
    static final class Bank {
        private final int loopStart = 1000, loopEnd = 2000, frames = 4410;
        private int zeros = 46, rate = 44_100, end = frames, instrument = 0, sample = 0, loopLast = loopEnd, tables = 9;

        byte[] bytes() {
            ByteBuffer smpl = little(2 * (frames + 46));
            for (int n = 0; n < frames + 46 - zeros; n++)
                smpl.putShort(2 * n, (short) (16_000 * Math.sin(2 * Math.PI * 441 * n / 44_100) + 1));
            ByteArrayOutputStream pdta = new ByteArrayOutputStream();
            // Names are zeros; indexes of bags, generators and modulators; the last record of each table ends it.
            table(pdta, 9, "phdr", little(76).putShort(62, (short) 1));
            table(pdta, 8, "pbag", little(8).putShort(4, (short) 1));
            table(pdta, 7, "pmod", little(10));
            table(pdta, 6, "pgen", little(8).putShort((short) 41).putShort((short) instrument));
            table(pdta, 5, "inst", little(44).putShort(42, (short) 1));
            table(pdta, 4, "ibag", little(8).putShort(4, (short) 4));
            table(pdta, 3, "imod", little(10));
            // Pan 250 is half-way to the right, attenuation in centibels, a loop that goes on.
            table(pdta, 2, "igen",
                    little(20).putShort((short) 17).putShort((short) 250).putShort((short) 48).putShort((short) 60).putShort((short) 54).putShort((short) 1)
                            .putShort((short) 53).putShort((short) sample));
            table(pdta, 1, "shdr",
                    little(92).putInt(20, 0).putInt(24, end).putInt(28, loopStart).putInt(32, loopLast).putInt(36, rate).put(40, (byte) 69).put(41, (byte) 3));
            byte[] lists = concat(list("sdta", chunk("smpl", smpl.array())), list("pdta", pdta.toByteArray()));
            return chunk("RIFF", concat("sfbk".getBytes(StandardCharsets.US_ASCII), lists));
        }

        private void table(ByteArrayOutputStream into, int fromBehind, String id, ByteBuffer records) {
            if (fromBehind <= tables) into.writeBytes(chunk(id, records.array()));
        }

        private static byte[] list(String type, byte[] chunks) { return chunk("LIST", concat(type.getBytes(StandardCharsets.US_ASCII), chunks)); }

        private static byte[] chunk(String id, byte[] data) {
            return concat(little(8).put(id.getBytes(StandardCharsets.US_ASCII)).putInt(data.length).array(), data);
        }

        private static byte[] concat(byte[] a, byte[] b) {
            byte[] all = Arrays.copyOf(a, a.length + b.length);
            System.arraycopy(b, 0, all, a.length, b.length);
            return all;
        }
    }

    private void bank(Bank bank, String reason) throws Exception {
        Files.write(card.resolve("a.sf2"), bank.bytes());
        told(new BankPlayer().load(card), reason);
    }

    @Test void aBankIsReadAndItsZoneIsWhatItSays() throws Exception {
        bank(new Bank(), null);
        Preset.Slot slot = new BankPlayer().load(card).presets().getFirst().slots().getFirst();
        assertThat(slot.root()).isEqualTo(69);
        assertThat(slot.cents()).isEqualTo(3);
        assertThat(slot.pan()).isEqualTo(50);
        assertThat(slot.gainDb()).isEqualTo(-6);
        assertThat(slot.loop()).isEqualTo(new Preset.Loop(1000, 2000, false, 0));
        assertThat(slot.sound().planes()[0][25]).isCloseTo(16_000 / 32_768.0, within(1e-3));
    }

    @Test void whatABankGetsWrong() throws Exception {
        Bank bank = new Bank();
        bank.zeros = 45;
        bank(bank, "sample '' is not followed by 46 zeros");
        bank = new Bank();
        bank.end = 5000;
        bank(bank, "sample '' lies outside of the samples");
        bank = new Bank();
        bank.rate = 96_000;
        bank(bank, "sample '' has 96000 Hz; plays 400 to 50000");
        bank = new Bank();
        bank.loopLast = 1031;
        bank(bank, "sample '' loops from 1000 to 1031 of 4410; takes loops of 32 frames, 8 from either end");
        bank = new Bank();
        bank.loopLast = 4403;
        bank(bank, "sample '' loops from 1000 to 4403 of 4410");
        bank = new Bank();
        bank.instrument = 1;
        bank(bank, "'' names an instrument that is not there");
        bank = new Bank();
        bank.sample = 1;
        bank(bank, "there is no sample 1");
        bank = new Bank();
        bank.tables = 8;
        bank(bank, "no 'phdr' chunk");
    }

    @Test void aBankThatIsCutOff() throws Exception {
        byte[] whole = new Bank().bytes();
        Files.write(card.resolve("a.sf2"), Arrays.copyOf(whole, whole.length - 1));
        told(new BankPlayer().load(card), "file is cut off");
    }
}
