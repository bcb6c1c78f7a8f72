package org.orderlyferry.exportset;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.csvw.Annotations;
import org.orderlyferry.csvw.CsvwDialects;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.UsageException;

/**
 * The format of a set's files, as its definitions say it: delimited text in CSVW's own words, all else by annotations.
 *
 * @param format which
 * @param settings how its files are written
 */
record SetFormat(FileFormat format, FileSettings settings) {

    static void write(FileFormat format, FileSettings settings, ObjectNode root) {
        if (format instanceof DelimitedFormat) {
            CsvDialect dialect = DelimitedFormat.plain(settings)
                    .orElseThrow(() -> new UsageException("a set's files are delimited text that any program can read"
                            + " by its CSVW description; convert a table to a file of its own for other forms"));
            CsvwDialects.write(dialect, root.putObject("dialect"));
            root.put("null", dialect.nullText());
            return;
        }
        root.put(Annotations.FORMAT, format.name());
        ObjectNode node = root.putObject(Annotations.SETTINGS);
        settings.values().forEach(node::put);
    }

    static SetFormat read(JsonNode root, String set) {
        if (!root.has(Annotations.FORMAT)) {
            CsvDialect dialect =
                    CsvwDialects.read(root.path("dialect"), root.path("null").asText(""), set);
            return new SetFormat(new DelimitedFormat(), dialect.settings());
        }
        String name = root.get(Annotations.FORMAT).asText();
        Optional<FileFormat> format =
                FileFormats.all().stream().filter(f -> f.name().equals(name)).findFirst();
        if (format.isEmpty()) {
            throw new BrokenSetException(set, "its files are " + name + ", which isn't known here");
        }
        FileSettings settings = FileSettings.NONE;
        for (Map.Entry<String, JsonNode> entry : root.path(Annotations.SETTINGS).properties()) {
            settings = settings.with(entry.getKey(), entry.getValue().asText());
        }
        return new SetFormat(format.get(), settings.withoutFiles());
    }
}
