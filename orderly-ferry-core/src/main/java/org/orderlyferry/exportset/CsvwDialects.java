package org.orderlyferry.exportset;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.charset.Charset;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.LineEnd;
import org.orderlyferry.problem.BrokenSetException;

/** A delimited file's dialect as CSVW's dialect description, and back. */
final class CsvwDialects {

    private CsvwDialects() {}

    /** Every property is written out: where CSVW's defaults trim or drop something, silence would mean loss. */
    static void write(CsvDialect dialect, ObjectNode to) {
        to.put("encoding", dialect.encoding().name().toLowerCase(java.util.Locale.ROOT));
        to.putArray("lineTerminators").add(dialect.lineEnd().text());
        to.put("quoteChar", String.valueOf(dialect.quote()));
        to.put("doubleQuote", true);
        to.putNull("commentPrefix");
        to.put("delimiter", String.valueOf(dialect.delimiter()));
        to.put("header", dialect.header());
        to.put("headerRowCount", dialect.header() ? 1 : 0);
        to.put("skipRows", 0);
        to.put("skipColumns", 0);
        to.put("skipBlankRows", false);
        to.put("skipInitialSpace", false);
        to.put("trim", false);
    }

    static CsvDialect read(JsonNode dialect, String nullText, String set) {
        try {
            CsvDialect read = CsvDialect.RFC_4180
                    .withEncoding(Charset.forName(dialect.path("encoding").asText("utf-8")))
                    .withDelimiter(one(dialect, "delimiter", ","))
                    .withQuote(one(dialect, "quoteChar", "\""))
                    .withHeader(dialect.path("header").asBoolean(true))
                    .withNullText(nullText);
            String lineEnd = dialect.path("lineTerminators").path(0).asText("\r\n");
            for (LineEnd end : LineEnd.values()) {
                if (end.text().equals(lineEnd)) {
                    read = read.withLineEnd(end);
                }
            }
            return read;
        } catch (IllegalArgumentException | org.orderlyferry.problem.UsageException e) {
            throw new BrokenSetException(set, "its dialect can't be used: " + e.getMessage());
        }
    }

    private static char one(JsonNode dialect, String key, String otherwise) {
        String text = dialect.path(key).asText(otherwise);
        if (text.length() != 1) {
            throw new IllegalArgumentException(key + " has to be one character, and is '" + text + "'");
        }
        return text.charAt(0);
    }
}
