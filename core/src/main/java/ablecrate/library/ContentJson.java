package ablecrate.library;

import ablecrate.codec.AudioPlace;
import ablecrate.codec.Bytes;
import ablecrate.codec.Compression;
import ablecrate.codec.PacketTable;
import ablecrate.codec.SoundFile;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.MapperFeature;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.deser.std.StdDeserializer;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.jsontype.BasicPolymorphicTypeValidator;
import com.fasterxml.jackson.databind.module.SimpleModule;
import com.fasterxml.jackson.databind.ser.std.StdSerializer;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.Base64;
import java.util.Optional;
import java.util.function.Function;

/// Descriptions of sounds as the catalogue keeps them. The keys are the components of the records; which of several kinds something is, its class
/// says, and only classes of ours are believed.
final class ContentJson {
    private static final JsonMapper MAPPER = JsonMapper.builder().addModule(new Jdk8Module()).addModule(ownKinds())
            .defaultPropertyInclusion(JsonInclude.Value.construct(JsonInclude.Include.ALWAYS, JsonInclude.Include.ALWAYS))
            .disable(MapperFeature.AUTO_DETECT_IS_GETTERS)
            .polymorphicTypeValidator(BasicPolymorphicTypeValidator.builder().allowIfSubType("ablecrate.codec.").build())
            .addMixIn(AudioPlace.class, ByClass.class)
            .addMixIn(Compression.Start.class, ByClass.class).build();

    private ContentJson() {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.CLASS) private interface ByClass {}

    /// What was written by another version is none.
    static Optional<SoundFile> read(String json) {
        try {
            return Optional.of(MAPPER.readValue(json, SoundFile.class));
        } catch (JsonProcessingException | RuntimeException e) {
            return Optional.empty();
        }
    }

    static String write(SoundFile file) {
        try {
            return MAPPER.writeValueAsString(file);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(file + " is no JSON value", e);
        }
    }

    private static SimpleModule ownKinds() {
        SimpleModule module = new SimpleModule();
        asText(module, Path.class, Path::toString, Path::of);
        asText(module, ByteOrder.class, ByteOrder::toString, t -> t.equals(ByteOrder.BIG_ENDIAN.toString()) ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN);
        asText(module, Bytes.class, b -> Base64.getEncoder().encodeToString(b.toArray()), t -> Bytes.of(Base64.getDecoder().decode(t)));
        asText(module, PacketTable.class, ContentJson::text, ContentJson::table);
        return module;
    }

    private static <T> void asText(SimpleModule module, Class<T> kind, Function<T, String> write, Function<String, T> read) {
        module.addSerializer(kind, new StdSerializer<T>(kind) {
            private static final long serialVersionUID = 1;

            @Override public void serialize(T value, JsonGenerator out, SerializerProvider provider) throws IOException { out.writeString(write.apply(value)); }
        });
        module.addDeserializer(kind, new StdDeserializer<T>(kind) {
            private static final long serialVersionUID = 1;

            @Override public T deserialize(JsonParser in, DeserializationContext context) throws IOException { return read.apply(in.getText()); }
        });
    }

    private static String text(PacketTable table) {
        ByteBuffer bytes = ByteBuffer.allocate(12 * table.packets());
        for (int i = 0; i < table.packets(); i++)
            bytes.putLong(table.at(i)).putInt(table.bytes(i));
        return Base64.getEncoder().encodeToString(bytes.array());
    }

    private static PacketTable table(String text) {
        ByteBuffer bytes = ByteBuffer.wrap(Base64.getDecoder().decode(text));
        long[] places = new long[bytes.remaining() / 12];
        int[] sizes = new int[places.length];
        for (int i = 0; i < places.length; i++) {
            places[i] = bytes.getLong();
            sizes[i] = bytes.getInt();
        }
        return PacketTable.of(places, sizes);
    }
}
