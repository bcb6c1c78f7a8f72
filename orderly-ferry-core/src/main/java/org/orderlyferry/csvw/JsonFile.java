package org.orderlyferry.csvw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.orderlyferry.problem.BrokenSetException;

/** A JSON file of a set, or beside a single file. */
public final class JsonFile {

    private static final ObjectMapper JSON = new ObjectMapper();

    private JsonFile() {}

    /** Reads a file of a set. */
    public static JsonNode read(Path file, String shown, String set) {
        try (InputStream in = Files.newInputStream(file)) {
            JsonNode node = JSON.readTree(in);
            if (!node.isObject()) {
                throw new BrokenSetException(set, "the file " + shown + " holds no JSON object");
            }
            return node;
        } catch (IOException e) {
            throw new BrokenSetException(set, "the file " + shown + " isn't JSON: " + e.getMessage());
        }
    }
}
