package ablecrate.codec.tags;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.instrument.TextField;
import java.nio.ByteOrder;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Tags put together by hand from M. Nilsson, *ID3 tag version 2.3.0* and *2.4.0*, and E. Kemp, *ID3v1*.
class Id3Test {
    private static ChunkBuilder big() { return new ChunkBuilder(ByteOrder.BIG_ENDIAN); }

    private static byte[] tag(int version, int flags, byte[] frames) {
        int n = frames.length;
        return big().id("ID3").u8(version).u8(0).u8(flags).u8(n >> 21 & 127).u8(n >> 14 & 127).u8(n >> 7 & 127).u8(n & 127).bytes(frames).toArray();
    }

    /// A frame of version 2.3: id, size in eight-bit bytes, flags, encoding, text.
    private static byte[] frame(String id, int encoding, byte[] text) { return big().id(id).u32(1 + text.length).u16(0).u8(encoding).bytes(text).toArray(); }

    private static byte[] latin(String text) { return text.getBytes(StandardCharsets.ISO_8859_1); }

    /// Section 3.1: four bytes of seven bits; 0x00 0x00 0x02 0x01 is 257.
    @Test void theLengthOfATagIsToldInSevenBitBytes() {
        byte[] head = {'I', 'D', '3', 3, 0, 0, 0, 0, 2, 1};
        assertThat(Id3.length(head)).isEqualTo(10 + 257);
        head[5] = 0x10; // a footer follows
        assertThat(Id3.length(head)).isEqualTo(10 + 257 + 10);
        head[0] = 'X';
        assertThat(Id3.length(head)).isZero();
    }

    @ParameterizedTest @CsvSource({"0, ISO-8859-1", "1, UTF-16", "2, UTF-16BE", "3, UTF-8"}) void textsAreReadInTheirEncoding(int encoding, String charset) {
        byte[] text = "Der Müller".getBytes(Charset.forName(charset));
        assertThat(Id3.read(tag(4, 0, frame("TIT2", encoding, text))).texts()).containsEntry(TextField.NAME, "Der Müller");
    }

    /// Version 2.2 has ids of three letters and sizes of three bytes.
    @Test void theOldestVersionIsReadToo() {
        byte[] frame = big().id("TT2").u8(0).u8(0).u8(7).u8(0).bytes(latin("Crates")).toArray();
        assertThat(Id3.read(tag(2, 0, frame)).texts()).isEqualTo(Map.of(TextField.NAME, "Crates"));
    }

    /// Section 3.2: 0xFF 0x00 stands for 0xFF, so that no tag looks like audio.
    @Test void whatWasPutInAgainstFalseSyncIsTakenOut() {
        byte[] text = {'y', (byte) 0xFF, 0};
        byte[] stretched = big().id("TPE1").u32(3).u16(0).u8(0).bytes(text).toArray();
        assertThat(Id3.read(tag(3, 0x80, stretched)).texts()).containsEntry(TextField.ARTIST, "yÿ");
    }

    /// A comment has a language and a description before it.
    @Test void ofACommentTheTextCounts() {
        byte[] body = latin("engnote\0Recorded in the pit");
        assertThat(Id3.read(tag(3, 0, frame("COMM", 0, body))).texts()).isEqualTo(Map.of(TextField.COMMENT, "Recorded in the pit"));
    }

    /// Section 4.2.1, TCON; numbers by appendix A.3: 17 is Rock, 24 Soundtrack.
    @ParameterizedTest @CsvSource({"(17), Rock", "24, Soundtrack", "(4)Eurodisco, Eurodisco", "Puppet opera, Puppet opera", "(250), (250)", "(0)(17), Blues",
        "79, Hard Rock"}) void genresAreReadByNumberOrByName(String stored, String read) {
        assertThat(Id3.read(tag(3, 0, frame("TCON", 0, latin(stored)))).texts()).containsEntry(TextField.GENRE, read);
    }

    @Test void theOldTagAtTheEndHasFixedPlaces() {
        byte[] tag = new byte[128];
        byte[] all = big().id("TAG").text("Overture", 30).text("Sound department", 30).text("The Clockwork Orchard", 30).text("2026", 4).text("as mailed", 30)
                .u8(32)
                .toArray();
        System.arraycopy(all, 0, tag, 0, 128);
        assertThat(Id3.readV1(tag)).containsEntry(TextField.NAME, "Overture").containsEntry(TextField.PRODUCT, "The Clockwork Orchard")
                .containsEntry(TextField.GENRE, "Classical").containsEntry(TextField.DATE, "2026");
        tag[0] = 'S';
        assertThat(Id3.readV1(tag)).isEmpty();
    }

    @Test void whatIsWrittenIsReadAgain() {
        Map<TextField, String> texts = Map.of(TextField.NAME, "Glas ♪", TextField.COMMENT, "a\nb", TextField.GENRE, "Puppet opera", TextField.TEMPO, "96");
        byte[] tag = Id3.write(texts);
        assertThat(Id3.length(tag)).isEqualTo(tag.length);
        assertThat(Id3.read(tag).texts()).isEqualTo(texts);
        assertThat(Id3.write(Map.of())).isEmpty();
    }

    /// Cut anywhere, a tag gives what is whole of it and no fault.
    @Test void aTagThatIsCutGivesWhatIsThere() {
        byte[] whole = tag(3, 0, big().bytes(frame("TIT2", 0, latin("Crates"))).bytes(frame("TPE1", 0, latin("Pit"))).toArray());
        for (int length = 10; length <= whole.length; length++) {
            Map<TextField, String> texts = Id3.read(Arrays.copyOf(whole, length)).texts();
            assertThat(texts.getOrDefault(TextField.NAME, "Crates")).isEqualTo("Crates");
        }
        assertThat(Id3.read(whole).texts()).hasSize(2);
    }
}
