package docksort.catalogue;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonDeserializer;
import com.fasterxml.jackson.databind.JsonSerializer;
import com.fasterxml.jackson.databind.MapperFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.module.SimpleModule;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import docksort.media.FrameStructure;
import java.io.IOException;

/// Values as JSON text of the catalogue. Only a record's components are written; the frame structure is left
/// out, because it has a column of its own ([StructureBytes]).
final class Json {
    private static final ObjectMapper MAPPER = JsonMapper.builder()
            .addModule(new Jdk8Module())
            .addModule(new SimpleModule()
                    .addSerializer(FrameStructure.class, new LeaveOut())
                    .addDeserializer(FrameStructure.class, new ReadNone()))
            .disable(MapperFeature.AUTO_DETECT_IS_GETTERS)
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .build();

    private Json() {}

    static String text(Object value) {
        try {
            return MAPPER.writeValueAsString(value);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("cannot write " + value.getClass(), e);
        }
    }

    /// The text of an undo with its kind, which only the interface's static type brings along.
    static String undoText(Undo undo) {
        try {
            return MAPPER.writerFor(Undo.class).writeValueAsString(undo);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("cannot write " + undo, e);
        }
    }

    static <T> T read(String text, Class<T> type) {
        try {
            return MAPPER.readValue(text, type);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("the catalogue holds a damaged " + type.getSimpleName(), e);
        }
    }

    private static final class LeaveOut extends JsonSerializer<FrameStructure> {
        @Override
        public void serialize(FrameStructure value, JsonGenerator out, SerializerProvider provider) throws IOException {
            out.writeString("");
        }
    }

    private static final class ReadNone extends JsonDeserializer<FrameStructure> {
        @Override
        public FrameStructure deserialize(JsonParser in, DeserializationContext context) {
            return FrameStructure.NONE;
        }
    }
}
