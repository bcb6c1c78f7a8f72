package org.orderlyferry.work;

import com.fasterxml.jackson.annotation.JsonAutoDetect.Visibility;
import com.fasterxml.jackson.annotation.PropertyAccessor;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonDeserializer;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.JsonSerializer;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.deser.std.StdScalarDeserializer;
import com.fasterxml.jackson.databind.deser.std.StringDeserializer;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.module.SimpleModule;
import java.io.IOException;
import java.io.OutputStream;
import java.io.Reader;
import java.io.StringReader;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.Map;
import java.util.TreeMap;
import org.orderlyferry.csvw.CsvwSchemaReader;
import org.orderlyferry.csvw.CsvwSchemaWriter;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.tally.Digest;

/** The JSON form of work's plain values: their components by name; definitions as CSVW schemas. */
final class WorkJson {

    private static final ObjectMapper MAPPER = JsonMapper.builder()
            .visibility(PropertyAccessor.GETTER, Visibility.NONE)
            .visibility(PropertyAccessor.IS_GETTER, Visibility.NONE)
            .visibility(PropertyAccessor.FIELD, Visibility.ANY)
            .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)
            .enable(DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES)
            .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
            .addModule(new SimpleModule()
                    .addSerializer(TableDefinition.class, new Schema())
                    .addDeserializer(TableDefinition.class, new Definition())
                    .addSerializer(LoadModes.class, new Modes())
                    .addDeserializer(LoadModes.class, new ReadModes())
                    .addSerializer(Digest.class, new DigestText())
                    .addDeserializer(Digest.class, new TextDigest())
                    .addDeserializer(String.class, new SharedText()))
            .build();

    private WorkJson() {}

    static String write(Object value) {
        try {
            return MAPPER.writeValueAsString(value);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a plain value has no JSON form: " + value, e);
        }
    }

    /** Writes it without ever having all of its text in memory. */
    static void write(Object value, OutputStream to) throws IOException {
        MAPPER.writer().without(JsonGenerator.Feature.AUTO_CLOSE_TARGET).writeValue(to, value);
    }

    static <T> T read(String json, Class<T> type, String what) {
        try {
            return read(new StringReader(json), type, what);
        } catch (IOException e) {
            throw new IllegalStateException("a text in memory can be read", e);
        }
    }

    /**
     * Reads it as it comes.
     *
     * @throws IOException if it can't be read
     */
    static <T> T read(Reader json, Class<T> type, String what) throws IOException {
        try {
            T value = MAPPER.readerFor(type)
                    .withAttribute(SharedText.class, new HashMap<String, String>())
                    .readValue(json);
            if (value == null) {
                throw new UsageException("this is not " + what + ": null");
            }
            return value;
        } catch (JsonProcessingException e) {
            throw e.getCause() instanceof FerryException reason
                    ? reason
                    : new UsageException("this is not " + what + ": " + e.getOriginalMessage(), e);
        }
    }

    static String hash(Object value) {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            write(value, new DigestOutputStream(OutputStream.nullOutputStream(), digest));
            return HexFormat.of().formatHex(digest.digest());
        } catch (NoSuchAlgorithmException | IOException e) {
            throw new IllegalStateException("every Java has SHA-256, and a plain value has a JSON form", e);
        }
    }

    /** One word where it is the same with all tables, as plans had it before it could be another one with each. */
    private static final class Modes extends JsonSerializer<LoadModes> {

        @Override
        public void serialize(LoadModes value, JsonGenerator out, SerializerProvider provider) throws IOException {
            if (value.others().isEmpty()) {
                out.writeString(value.most().name());
                return;
            }
            out.writeStartObject();
            out.writeStringField("most", value.most().name());
            for (Map.Entry<String, LoadMode> other : new TreeMap<>(value.others()).entrySet()) {
                out.writeStringField("of " + other.getKey(), other.getValue().name());
            }
            out.writeEndObject();
        }
    }

    private static final class ReadModes extends JsonDeserializer<LoadModes> {

        @Override
        public LoadModes deserialize(JsonParser in, DeserializationContext context) throws IOException {
            JsonNode node = in.readValueAsTree();
            try {
                if (node.isTextual()) {
                    return LoadModes.all(LoadMode.valueOf(node.textValue()));
                }
                LoadMode most = LoadMode.valueOf(node.path("most").asText());
                Map<String, LoadMode> others = new HashMap<>();
                node.properties().forEach(p -> {
                    if (p.getKey().startsWith("of ")) {
                        others.put(
                                p.getKey().substring("of ".length()),
                                LoadMode.valueOf(p.getValue().asText()));
                    }
                });
                return new LoadModes(most, others);
            } catch (IllegalArgumentException e) {
                return context.reportInputMismatch(LoadModes.class, "what is done with tables isn't known: %s", node);
            }
        }
    }

    /** Names of tables and columns stand in each of a plan's slices; one text does for all of them. */
    private static final class SharedText extends StdScalarDeserializer<String> {
        private static final long serialVersionUID = 1L;
        private static final int MOST = 10_000;

        SharedText() {
            super(String.class);
        }

        @Override
        public String deserialize(JsonParser in, DeserializationContext context) throws IOException {
            String text = StringDeserializer.instance.deserialize(in, context);
            if (text == null || !(context.getAttribute(SharedText.class) instanceof Map<?, ?> known)) {
                return text;
            }
            @SuppressWarnings("unchecked") // it is ours
            Map<String, String> shared = (Map<String, String>) known;
            return shared.size() < MOST ? shared.computeIfAbsent(text, t -> t) : shared.getOrDefault(text, text);
        }
    }

    private static final class Schema extends JsonSerializer<TableDefinition> {
        @Override
        public void serialize(TableDefinition table, JsonGenerator out, SerializerProvider provider)
                throws IOException {
            out.writeTree(new CsvwSchemaWriter(Map.of()).write(table));
        }
    }

    private static final class Definition extends JsonDeserializer<TableDefinition> {
        @Override
        public TableDefinition deserialize(JsonParser in, DeserializationContext context) throws IOException {
            JsonNode schema = in.readValueAsTree();
            return new CsvwSchemaReader("the plan").read(schema, "(unnamed)");
        }
    }

    private static final class DigestText extends JsonSerializer<Digest> {
        @Override
        public void serialize(Digest digest, JsonGenerator out, SerializerProvider provider) throws IOException {
            out.writeString(digest.toString());
        }
    }

    private static final class TextDigest extends JsonDeserializer<Digest> {
        @Override
        public Digest deserialize(JsonParser in, DeserializationContext context) throws IOException {
            try {
                return Digest.parse(in.getText());
            } catch (IllegalArgumentException e) {
                throw new UsageException("this is no digest: " + in.getText(), e);
            }
        }
    }
}
