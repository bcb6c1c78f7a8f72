package org.orderlyferry.file;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.orderlyferry.csvw.CsvwDialects;
import org.orderlyferry.csvw.CsvwNames;
import org.orderlyferry.csvw.CsvwSchemaWriter;
import org.orderlyferry.csvw.CsvwStyles;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.model.TableDefinition;

/** Writes what {@link Description} reads. */
final class DescriptionWriter {

    private static final ObjectMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private final FileFormat format;
    private final FileSettings settings;
    private final Function<TableDefinition, Map<String, ValueStyle>> styles;

    /**
     * A writer for files of one format.
     *
     * @param styles how a table's columns write their values
     */
    DescriptionWriter(
            FileFormat format, FileSettings settings, Function<TableDefinition, Map<String, ValueStyle>> styles) {
        this.format = format;
        this.settings = settings;
        this.styles = styles;
    }

    byte[] write(String fileName, List<TableDefinition> tables) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("@context", "http://www.w3.org/ns/csvw");
        if (tables.size() == 1) {
            describe(root, fileName, tables.get(0));
        } else {
            ArrayNode list = root.putArray("tables");
            for (TableDefinition table : tables) {
                describe(list.addObject(), fileName + "#" + table.name(), table);
            }
        }
        try {
            return JSON.writeValueAsBytes(root);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a tree can always be written", e);
        }
    }

    private void describe(ObjectNode node, String url, TableDefinition table) {
        node.put("url", CsvwNames.url(url).replace("%23", "#"));
        if (format instanceof DelimitedFormat) {
            CsvwDialects.write(settings, node);
        }
        ObjectNode schema = new CsvwSchemaWriter(Map.of()).write(table);
        schema.remove("@context");
        CsvwStyles.write(styles.apply(table), table, schema);
        node.set("tableSchema", schema);
    }
}
