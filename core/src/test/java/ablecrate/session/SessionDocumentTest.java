package ablecrate.session;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.Depth;
import ablecrate.json.Json;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SessionDocumentTest {
    private static TempoMap map(List<TempoMap.Tempo> tempos, List<TempoMap.Meter> meters) { return new TempoMap(tempos, meters, 48_000); }

    /// Common practice: a quarter note lasts 60 s over the tempo, a bar as many notes as its meter says.
    @Test void barsLieWhereTempoAndMeterPutThem() {
        TempoMap plain = map(List.of(new TempoMap.Tempo(1, 120)), List.of(new TempoMap.Meter(1, 4, 4)));
        assertThat(plain.frame(2)).isEqualTo(96_000);
        assertThat(plain.frame(2.5)).isEqualTo(144_000);
        assertThat(map(List.of(new TempoMap.Tempo(1, 120)), List.of(new TempoMap.Meter(1, 6, 8))).frame(2)).isEqualTo(72_000);
        // Two bars of 4/4 at 120 take 4 s; then 3/4 at 60, 3 s a bar.
        TempoMap steps = map(List.of(new TempoMap.Tempo(1, 120), new TempoMap.Tempo(3, 60)), List.of(new TempoMap.Meter(1, 4, 4), new TempoMap.Meter(3, 3, 4)));
        assertThat(steps.frame(5)).isEqualTo((4 + 2 * 3) * 48_000);
        assertThat(steps.text(steps.frame(5))).isEqualTo("bar 5, 0:10.000");
    }

    @Test void aPlaceAndItsBarAreTheSame() {
        Random random = new Random(4);
        TempoMap map = map(List.of(new TempoMap.Tempo(1, 97.3), new TempoMap.Tempo(4.5, 140), new TempoMap.Tempo(9, 60)),
                List.of(new TempoMap.Meter(1, 7, 8), new TempoMap.Meter(3, 4, 4), new TempoMap.Meter(12, 3, 2)));
        for (int i = 0; i < 1000; i++) {
            double frame = random.nextDouble() * 5_000_000;
            assertThat(map.frame(map.bar(frame))).isCloseTo(frame, within(1e-6));
        }
    }

    private static final String WHOLE = """
            {"format": "session 1", "rateHz": 48000, "depth": "24", "tempo": [{"bar": 1, "bpm": 120}], "meters": [{"bar": 1, "beats": 4, "unit": 4}],
             "files": [{"path": "audio/a.wav"}], "tracks": [{"name": "A", "clips": [{"file": "audio/a.wav", "startFrame": 96000, "bar": 2, "offsetFrames": 0,
             "lengthFrames": 100}]}]}""";

    @Test void aDocumentIsReadAsItWasWritten() throws Exception {
        SessionDocument read = Json.read(WHOLE, SessionDocument.class, "session.json");
        assertThat(Json.read(Json.write(read), SessionDocument.class, "again")).isEqualTo(read);
        assertThat(read.tracks().getFirst().clips().getFirst().bar()).isEqualTo(2);
        assertThat(read.offTracks()).isEmpty();
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"session 1|session 2|'session 1' is expected, found 'session 2'", "48000|12|12 is no rate",
        "\"24\"|\"23\"|'23' is none of", "120|5|5.0 is no number of beats a minute", "\"unit\": 4|\"unit\": 3|4/3 is no meter",
        "\"bar\": 2|\"bar\": 3|lies at bar 2.0, not 3.0",
        "\"tempo\": [{\"bar\": 1|\"tempo\": [{\"bar\": 2|the first is at bar 1",
        "\"file\": \"audio/a.wav\"|\"file\": \"audio/b.wav\"|is of no file of the session",
        "\"startFrame\": 96000|\"startFrame\": 9223372036854775807|no time line is so long",
        "\"lengthFrames\": 100|\"lengthFrames\": 0|the length is above it",
        "\"lengthFrames\": 100|\"lengthFrames\": 100, \"fadeInFrames\": 101|its fades are longer",
        "{\"path\": \"audio/a.wav\"}|{\"path\": \"audio/a.wav\"}, {\"path\": \"audio/a.wav\"}|is there twice",
        "\"name\": \"A\"|\"name\": \"A\", \"colour\": 3|no key 'colour' is known here"}) void whatADocumentGetsWrongIsNamed(String right, String wrong,
                String reason) {
        assertThat(WHOLE).contains(right);
        assertThatThrownBy(() -> Json.read(WHOLE.replace(right, wrong), SessionDocument.class, "session.json")).isInstanceOf(Json.JsonFault.class)
                .hasMessageContaining(reason).hasMessageStartingWith("session.json");
    }

    /// The published schema and the records have the same keys.
    @Test void theSchemaSaysWhatIsRead() throws Exception {
        JsonNode schema = new ObjectMapper().readTree(Sessions.schema()).get("properties");
        assertKeys(schema, SessionDocument.class, "schema", "$schema");
        assertKeys(schema.at("/files/items/properties"), SessionDocument.SoundRef.class);
        assertKeys(schema.at("/tracks/items/properties"), SessionDocument.Track.class);
        assertKeys(schema.at("/tracks/items/properties/clips/items/properties"), SessionDocument.Clip.class);
        assertKeys(schema.at("/tempo/items/properties"), TempoMap.Tempo.class);
        assertKeys(schema.at("/meters/items/properties"), TempoMap.Meter.class);
        assertKeys(schema.at("/markers/items/properties"), SessionDocument.Marker.class);
    }

    /// @param renamed a component, and its key
    private static void assertKeys(JsonNode properties, Class<?> type, String... renamed) {
        Set<String> keys = new TreeSet<>(), components = new TreeSet<>();
        properties.fieldNames().forEachRemaining(keys::add);
        Arrays.stream(type.getRecordComponents()).map(c -> renamed.length > 0 && c.getName().equals(renamed[0]) ? renamed[1] : c.getName())
                .forEach(components::add);
        assertThat(components).isEqualTo(keys);
    }

    @Test void aHundredThousandClipsAreReadInATime() throws Exception {
        StringBuilder clips = new StringBuilder();
        for (int i = 0; i < 100_000; i++)
            clips.append(i == 0 ? "" : ",").append("{\"file\": \"audio/a.wav\", \"startFrame\": ").append(i * 10L)
                    .append(", \"offsetFrames\": 0, \"lengthFrames\": 9}");
        String many = WHOLE.replaceAll("\"clips\": \\[[^]]*]", "\"clips\": [" + clips + "]");
        assertThat(Json.read(many, SessionDocument.class, "many").endFrame()).isEqualTo(999_999);
        assertThat(SessionDocument.of(44_100, Depth.FLOAT_32, 90, 3, 4).depthValue()).isEqualTo(Depth.FLOAT_32);
    }
}
