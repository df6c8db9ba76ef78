package ablecrate.codec;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.format.InstrumentFormats;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/// What lies in a folder of sounds is told by what is in it, whatever it is called.
class FileKindTest {
    @TempDir Path folder;

    private static Arguments head(String start, String name, String id, String told) { return Arguments.of(start, name, id, told); }

    /// Signatures: MIDI 1.0 (`MThd`), RFC 1952 (gzip), PKWARE APPNOTE 4.3.7 (`PK`), ISO 32000 (`%PDF`), ISO/IEC 15948 (PNG), ISO/IEC 10918-1 (JPEG), CompuServe
    /// GIF89a, EA IFF 85 (`FORM`), MIDI RP-29 (`RMID`); the rest is common practice.
    static Stream<Arguments> heads() {
        return Stream.of(head("", "a.wav", "empty", "Empty file"), head("MThd\0\0\0\6", "theme.wav", "midi", "Standard MIDI File"),
                head("RIFF\1\0\0\0RMID", "theme.rmi", "midi", "MIDI file in RIFF"), head("RIFF\1\0\0\0AVI ", "film.wav", "other", "RIFF file of type 'AVI '"),
                head("FORM\0\0\0\1ILBM", "picture.aif", "other", "FORM file of type 'ILBM'"), head("RIFF", "cut.wav", "other", "RIFF file of type '?'"),
                head("PK\u0003\u0004", "sounds.wav", "archive", "ZIP archive"), head("\u001f\u008b\b", "a.gz", "archive", "Archive"),
                head("7z\u00bc\u00af\u0027\u001c", "a.7z", "archive", "Archive"), head("%PDF-1.7", "notes.wav", "document", "PDF document"),
                head("\u0089PNG\r\n\u001a\n", "cover.wav", "picture", "Picture"), head("\u00ff\u00d8\u00ff\u00e0", "cover.jpg", "picture", "Picture"),
                head("GIF89a", "cover.gif", "picture", "Picture"), head("\0\1\2\3\4", "x.wav", "unknown", "Unknown file"),
                head("#EXTM3U\nreed.wav\n", "list.txt", "playlist", "Playlist"), head("reed.wav\n", "list.m3u8", "playlist", "Playlist"),
                head("[playlist]\nFile1=reed.wav", "a.pls", "playlist", "Playlist"),
                head("<?xml version=\"1.0\"?><playlist version=\"1\"/>", "a.xspf", "playlist", "Playlist"),
                head("{ \"a\": 1 }", "a.json", "text", "JSON file"), head("<html>", "readme.html", "text", "XML or HTML file"),
                head("  \n", "blank.txt", "text", "Text file"), head("Recorded in the orchard.", "readme.txt", "text", "Text file"));
    }

    @ParameterizedTest @MethodSource("heads") void everythingElseIsNamed(String start, String name, String id, String told) throws Exception {
        Path file = Files.write(folder.resolve(name), start.getBytes(StandardCharsets.ISO_8859_1));
        assertThat(FileKind.of(file)).isInstanceOfSatisfying(FileKind.Other.class, kind -> {
            assertThat(kind.id()).isEqualTo(id);
            assertThat(kind.name()).isEqualTo(told);
            assertThat(kind.reason()).isNotBlank();
        });
    }

    /// Instruments are known by their formats. SoundFont 2.04 (`sfbk`), DLS 2 (`DLS `).
    @ParameterizedTest @CsvSource({"'RIFF....sfbk',bank.wav,SoundFont 2", "'RIFF....DLS ',bank,DLS", "'<region> sample=a.wav',harp.txt,SFZ",
        "'// nothing yet',harp.sfz,SFZ"}) void instrumentsAreKnownByTheirFormats(String start, String name, String told) throws Exception {
        Path file = Files.write(folder.resolve(name), start.getBytes(StandardCharsets.ISO_8859_1));
        assertThat(InstrumentFormats.of(file)).hasValueSatisfying(f -> assertThat(f.name()).isEqualTo(told));
    }

    /// A sound is known under any name, and as the format that it is.
    @Test void soundsAreKnownByWhatIsInThem() throws Exception {
        double[] sine = Sounds.sine(441, 0.5, 44_100, 22_050);
        for (WrittenFormat format : SoundFormats.WRITTEN) {
            int rateHz = format.capabilities().compressing().ratesHz().contains(44_100) || format.capabilities().compressing().ratesHz().isEmpty()
                    ? 44_100
                    : 48_000;
            Depth depth = format.capabilities().compressing().isLossy() ? Depth.FLOAT_32 : Depth.INT_16;
            Path file = Sounds.write(folder.resolve("notes " + format.id() + ".txt"), format.id(), rateHz, depth, ablecrate.instrument.SoundMetadata.NONE,
                    sine);
            assertThat(FileKind.of(file)).as(format.name())
                    .isInstanceOfSatisfying(FileKind.Sound.class, kind -> assertThat(kind.format().id()).isEqualTo(format.id()));
        }
    }
}
