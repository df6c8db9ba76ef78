package ablecrate.codec;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.Depth;
import ablecrate.format.SurvivalTables;
import ablecrate.instrument.LoopMode;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/// What formats are declared to carry, against the documents that define them; "what survives where" is printed from these declarations.
class PublishedLimitsTest {
    private static Capabilities of(String id) { return SoundFormats.written(id).orElseThrow().capabilities(); }

    /// RFC 6716, section 2: narrowband 8 kHz, mediumband 12, wideband 16, super-wideband 24, fullband 48; RFC 7845, section 5.1: played at 48 kHz.
    @Test void opusHasARateOfItsStandard() {
        assertThat(of("opus").compressing().ratesHz()).contains(48_000).isSubsetOf(8000, 12_000, 16_000, 24_000, 48_000);
        assertThat(of("opus").compressing().isLossy()).isTrue();
    }

    /// ISO/IEC 11172-3, section 2.4.2.3: 32, 44.1 and 48 kHz; ISO/IEC 13818-3, section 2.4.2.3: half of them. Up to two channels.
    @Test void mp3HasTheRatesOfItsStandards() {
        assertThat(of("mp3").compressing().ratesHz()).contains(32_000, 44_100, 48_000, 16_000, 22_050, 24_000)
                .isSubsetOf(8000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000);
        assertThat(of("mp3").maxChannels()).isEqualTo(2);
    }

    /// RFC 9639, section 9.1.3: eight channels at most; section 8.2: 4 to 32 bits, integers only.
    @Test void flacHasTheChannelsAndDepthsOfItsStandard() {
        assertThat(of("flac").maxChannels()).isEqualTo(8);
        assertThat(of("flac").depths()).isNotEmpty().noneMatch(Depth::isFloat).allMatch(d -> d.bits() >= 4 && d.bits() <= 32);
        assertThat(of("flac").compressing().isLossy()).isFalse();
    }

    /// Sizes are 32-bit numbers there: EA IFF 85, "Chunks". A WAV file that is larger is written as RF64 (EBU Tech 3306).
    @Test void aiffEndsAtFourGibibytesAndWavDoesNot() {
        assertThat(of("aiff").maxFileBytes()).isBetween((1L << 32) - 64, 1L << 32);
        assertThat(of("wav").maxFileBytes()).isGreaterThan(1L << 40);
    }

    /// Apple, *Audio Interchange File Format*, 1989, "Instrument Chunk": one sustain loop and one release loop, forward or forward and backward; detune in
    /// whole cents. Microsoft, *Multimedia Data Standards Update*, 1994, `smpl`: any number of loops, three kinds, a play count, tuning in fractions.
    @Test void loopsAreThoseOfTheInstrumentChunks() {
        Capabilities aiff = of("aiff"), wav = of("wav");
        assertThat(List.of(aiff.loops().sustain(), aiff.loops().release())).containsExactly(1, 1);
        assertThat(aiff.loops().modes()).isEqualTo(Set.of(LoopMode.FORWARD, LoopMode.ALTERNATING));
        assertThat(aiff.loops().playCount()).isFalse();
        assertThat(aiff.fineTune()).isEqualTo(Capabilities.FineTune.WHOLE_CENTS);
        assertThat(wav.loops().sustain()).isEqualTo(Integer.MAX_VALUE);
        assertThat(wav.loops().modes()).isEqualTo(Set.of(LoopMode.FORWARD, LoopMode.ALTERNATING, LoopMode.BACKWARD));
        assertThat(wav.loops().playCount()).isTrue();
        assertThat(wav.fineTune()).isEqualTo(Capabilities.FineTune.EXACT);
    }

    /// The tables have a cell for each column, and say the same as the declarations.
    @Test void theTablesAreWhole() {
        for (SurvivalTable table : SurvivalTables.all())
            assertThat(table.rows()).isNotEmpty()
                    .allSatisfy(r -> assertThat(r.cells()).as(r.property()).hasSameSizeAs(table.columns()).noneMatch(String::isBlank));
        SurvivalTable sounds = SurvivalTable.ofSounds();
        Map<String, List<String>> rows = sounds.rows().stream().collect(Collectors.toMap(SurvivalTable.Row::property, SurvivalTable.Row::cells));
        for (int i = 0; i < SoundFormats.WRITTEN.size(); i++) {
            Capabilities can = SoundFormats.WRITTEN.get(i).capabilities();
            assertThat(sounds.columns().get(i)).isEqualTo(SoundFormats.WRITTEN.get(i).name());
            assertThat(rows.get("cue points").get(i)).isEqualTo(switch (can.cues()) {
                case 0 -> "–";
                case Integer.MAX_VALUE -> "any number";
                default -> Integer.toString(can.cues());
            });
            assertThat(rows.get("root key").get(i)).isEqualTo(can.rootKey() ? "yes" : "–");
            assertThat(rows.get("channels").get(i)).isEqualTo("up to " + can.maxChannels());
            if (can.compressing().isLossy()) assertThat(rows.get("depths").get(i)).isEqualTo("none, lossy");
        }
        assertThat(SurvivalTable.ofKinds().rows()).hasSameSizeAs(SoundFormats.ALL);
        String markdown = SurvivalTables.markdown();
        assertThat(markdown).contains("## Sounds", "## Instruments").endsWith("|\n");
        assertThat(markdown.lines().filter(l -> l.startsWith("|---"))).hasSize(3);
    }
}
