package ablecrate.relink;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.pack.Originals;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Names of converted files in made-up documents of four shapes.
class OtherDocumentTest {
    private static final Instant NOW = Instant.parse("2026-01-01T00:00:00Z");
    @TempDir Path folder;
    private Renames renames;

    @BeforeEach void renames() {
        Map<Path, Path> files = new LinkedHashMap<>();
        files.put(folder.resolve("takes/tin & glass é.aif"), folder.resolve("audio/tin & glass é.wav"));
        files.put(folder.resolve("takes/harp.flac"), folder.resolve("takes/harp.wav"));
        renames = new Renames(files);
    }

    private static String bytes(Path file) throws IOException { return new String(Files.readAllBytes(file), StandardCharsets.UTF_8); }

    /// In each the name before and after is written as that kind of document writes it; `#` stands for it.
    @ParameterizedTest @ValueSource(strings = {"file=#\n; of takes/tin & glass|takes/tin & glass é.aif|audio/tin & glass é.wav",
        "<clip src=\"#\" rate=\"44100\"/>|takes/tin &amp; glass é.aif|audio/tin &amp; glass é.wav",
        "<clip><url>file://@#</url></clip>|/takes/tin%20%26%20glass%20%C3%A9.aif|/audio/tin%20%26%20glass%20%C3%A9.wav",
        "{\"clips\": [{\"file\": \"#\"}]}|takes\\/tin & glass \\u00e9.aif|audio\\/tin & glass \\u00e9.wav",
        "{\"clips\": [{\"file\": \"#\"}]}|takes\\\\tin & glass é.aif|audio\\\\tin & glass é.wav"}) void namesAreReplacedAndNothingElse(String shape)
                throws Exception {
        String[] parts = shape.replace("@", folder.toString()).split("\\|");
        String text = "first line\r\n" + parts[0] + "\nlast é\n";
        for (boolean isGzip : List.of(false, true)) {
            Path document = folder.resolve("song" + isGzip);
            byte[] before = text.replace("#", parts[1]).getBytes(StandardCharsets.UTF_8);
            Files.write(document, isGzip ? zipped(before) : before);
            byte[] original = Files.readAllBytes(document);
            List<OtherDocument.Place> places = OtherDocument.read(document).relink(renames, NOW.plusSeconds(isGzip ? 1 : 0));
            assertThat(places).singleElement().satisfies(p -> assertThat(p.line()).isEqualTo(2));
            assertThat(new String(isGzip ? unzipped(document) : Files.readAllBytes(document), StandardCharsets.UTF_8)).isEqualTo(text.replace("#", parts[2]));
            assertThat(Originals.restore(folder, false).broughtBack()).containsExactly(document);
            assertThat(Files.readAllBytes(document)).isEqualTo(original);
        }
    }

    private static byte[] zipped(byte[] bytes) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
            gzip.write(bytes);
        }
        return out.toByteArray();
    }

    private static byte[] unzipped(Path file) throws IOException {
        try (GZIPInputStream in = new GZIPInputStream(Files.newInputStream(file))) {
            return in.readAllBytes();
        }
    }

    @Test void whatOnlyLooksLikeANameStays() throws Exception {
        Path document = Files.writeString(folder.resolve("song"),
                "big harp.flac\n\"myharp.flac\"\n\"harp.flac2\"\n\"harp.flac\"\n\"/elsewhere/tin & glass é.aif\"\n");
        List<OtherDocument.Place> places = OtherDocument.read(document).relink(renames, NOW);
        assertThat(bytes(document)).isEqualTo("big harp.flac\n\"myharp.flac\"\n\"harp.flac2\"\n\"harp.wav\"\n\"/elsewhere/tin & glass é.aif\"\n");
        assertThat(places).extracting(OtherDocument.Place::line).containsExactly(1, 4, 5);
        assertThat(places.get(0).why()).hasValueSatisfying(w -> assertThat(w).contains("a blank stands before it"));
        assertThat(places.get(2).why()).hasValueSatisfying(w -> assertThat(w).contains("another folder"));
    }

    @Test void aDocumentThatNamesNothingIsNotWritten() throws Exception {
        Path document = Files.writeString(folder.resolve("song"), "tin and harp");
        assertThat(OtherDocument.read(document).relink(renames, NOW)).isEmpty();
        try (var files = Files.list(folder)) {
            assertThat(files).containsExactly(document);
        }
    }

    @Test void binaryDamagedAndHugeDocumentsAreRefused() throws Exception {
        Path binary = Files.write(folder.resolve("binary"), new byte[]{'h', 0, 'p'});
        assertThatThrownBy(() -> OtherDocument.read(binary)).hasMessageStartingWith("a binary document");
        byte[] whole = zipped("harp.flac".repeat(50).getBytes(StandardCharsets.UTF_8));
        Path cut = Files.write(folder.resolve("cut"), java.util.Arrays.copyOf(whole, whole.length - 9));
        assertThatThrownBy(() -> OtherDocument.read(cut)).isInstanceOf(OtherDocument.RefusedException.class).hasMessageContaining("damaged");
        // 300 MB of nothing in 300 kB.
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
            for (int i = 0; i < 300; i++)
                gzip.write(new byte[1 << 20]);
        }
        Path bomb = Files.write(folder.resolve("bomb"), out.toByteArray());
        assertThatThrownBy(() -> OtherDocument.read(bomb)).hasMessageContaining("larger than any document");
    }
}
