package org.orderlyferry.report;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.deser.std.StdScalarDeserializer;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.module.SimpleModule;
import com.fasterxml.jackson.databind.ser.std.StdScalarSerializer;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Instant;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** Records and their parts as JSON (RFC 8259). A file may come from anybody: it is bounded, and holds nothing but values. */
@NullMarked
@API(status = API.Status.INTERNAL)
public final class RecordJson {

    private static final int LARGEST = 64 * 1024 * 1024;

    private static final JsonMapper JSON = JsonMapper.builder()
            .enable(SerializationFeature.INDENT_OUTPUT)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .addModule(new SimpleModule()
                    .addSerializer(Instant.class, new Written())
                    .addDeserializer(Instant.class, new Read()))
            .build();

    private RecordJson() {}

    /** Moments as ISO 8601 has them. */
    private static final class Written extends StdScalarSerializer<Instant> {
        private static final long serialVersionUID = 1L;

        Written() {
            super(Instant.class);
        }

        @Override
        public void serialize(Instant value, JsonGenerator to, SerializerProvider provider) throws IOException {
            to.writeString(value.toString());
        }
    }

    /** Likewise. */
    private static final class Read extends StdScalarDeserializer<Instant> {
        private static final long serialVersionUID = 1L;

        Read() {
            super(Instant.class);
        }

        @Override
        public Instant deserialize(JsonParser from, DeserializationContext context) throws IOException {
            String text = from.getText();
            try {
                return Instant.parse(text);
            } catch (DateTimeException e) {
                throw context.weirdStringException(text, Instant.class, "no moment: " + e.getMessage());
            }
        }
    }

    static String text(Object value) {
        try {
            return JSON.writeValueAsString(value);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("plain values can always be written", e);
        }
    }

    /**
     * Writes a record or a part of one to a file, in place of one that is there.
     *
     * @throws PlaceException if it can't be written
     */
    public static void write(Path file, Object value) {
        try {
            NewFile.whole(file, (text(value) + "\n").getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be written: " + e.getMessage(), e);
        }
    }

    /**
     * Reads a record or a part of one from a file.
     *
     * @throws MalformedFileException if it isn't one
     * @throws PlaceException if it can't be read
     */
    public static <T> T read(Path file, Class<T> type) {
        byte[] bytes;
        try (InputStream in = Files.newInputStream(file)) {
            bytes = in.readNBytes(LARGEST + 1);
        } catch (NoSuchFileException e) {
            throw new PlaceException(file.toString(), "isn't there", e);
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
        if (bytes.length > LARGEST) {
            throw malformed(file, 1, "it has more than " + LARGEST + " bytes, and no record has so many");
        }
        try {
            T value = JSON.readValue(bytes, type);
            if (value == null) {
                throw malformed(file, 1, "it isn't a record: it has nothing in it");
            }
            if (value instanceof WorkRecord record && record.record() != WorkRecord.VERSION) {
                throw malformed(
                        file,
                        1,
                        "it has the format version " + record.record() + ", and this program knows "
                                + WorkRecord.VERSION);
            }
            return value;
        } catch (JsonProcessingException e) {
            JsonLocation at = e.getLocation();
            throw malformed(file, at == null ? 1 : at.getLineNr(), "it isn't a record: " + e.getOriginalMessage());
        } catch (IOException e) {
            throw malformed(file, 1, "it isn't a record: " + e.getMessage());
        }
    }

    private static MalformedFileException malformed(Path file, long line, String what) {
        return new MalformedFileException(new Origin("", file.toString(), line, true), what);
    }
}
