package org.orderlyferry.columnar;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.csvw.CsvwSchemaReader;
import org.orderlyferry.csvw.CsvwSchemaWriter;
import org.orderlyferry.model.TableDefinition;

/** A table's definition among what a file says of itself: a schema of CSVW (W3C), under the name of its vocabulary's term. */
public final class FileDefinitions {

    /** What it is called among what a file says of itself. */
    public static final String KEY = "csvw:tableSchema";

    private static final ObjectMapper JSON = JsonMapper.builder().build();

    private FileDefinitions() {}

    /** What is written into a file. */
    public static Map<String, String> of(TableDefinition table) {
        return Map.of(KEY, new CsvwSchemaWriter(Map.of()).write(table).toString());
    }

    /**
     * What a file says; empty where it says nothing of the kind.
     *
     * @param shown the file, for messages
     */
    public static Optional<TableDefinition> in(Map<String, String> said, String shown, String otherwise) {
        String text = said.get(KEY);
        if (text == null) {
            return Optional.empty();
        }
        try {
            return Optional.of(new CsvwSchemaReader(shown).read(JSON.readTree(text), otherwise));
        } catch (JsonProcessingException e) {
            // somebody's text of that name
            return Optional.empty();
        }
    }
}
