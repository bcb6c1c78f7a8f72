package org.orderlyferry.csvw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.LineEnd;
import org.orderlyferry.problem.BrokenSetException;

/** A delimited file's dialect as CSVW's dialect description, and back. */
public final class CsvwDialects {

    /** What settings of a delimited file have from CSVW, name and meaning. */
    private static final List<String> SAME = List.of(
            "delimiter",
            "encoding",
            "skipRows",
            "skipColumns",
            "commentPrefix",
            "header",
            "headerRowCount",
            "doubleQuote",
            "trim");

    private CsvwDialects() {}

    /** Every property is written out: where CSVW's defaults trim or drop something, silence would mean loss. */
    public static void write(CsvDialect dialect, ObjectNode to) {
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

    /** A dialect description of CSVW as one that is read by bytes. */
    public static CsvDialect read(JsonNode dialect, String nullText, String set) {
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

    /** Settings of a delimited file as the dialect, and the word for null, of a table's description. */
    public static void write(FileSettings settings, ObjectNode table) {
        write(CsvDialect.RFC_4180, table.putObject("dialect"));
        ObjectNode dialect = (ObjectNode) table.get("dialect");
        settings.text("encoding").ifPresent(e -> dialect.put("encoding", e.toLowerCase(java.util.Locale.ROOT)));
        settings.text("delimiter").ifPresent(d -> dialect.put("delimiter", d.replace("\\t", "\t")));
        settings.text("commentPrefix").ifPresent(c -> dialect.put("commentPrefix", c));
        settings.text("quoteChar").ifPresent(q -> dialect.put("quoteChar", q.equals("none") ? null : q));
        dialect.put("doubleQuote", settings.flag("doubleQuote", true));
        String trim = settings.text("trim", "false");
        if (trim.equals("true") || trim.equals("false")) {
            dialect.put("trim", trim.equals("true"));
        } else {
            dialect.put("trim", trim);
        }
        boolean header = settings.flag("header", true);
        dialect.put("header", header).put("headerRowCount", header ? settings.count("headerRowCount", 1) : 0);
        dialect.put("skipRows", settings.count("skipRows", 0));
        dialect.put("skipColumns", settings.count("skipColumns", 0));
        settings.text("lineTerminators").ifPresent(name -> {
            for (LineEnd end : LineEnd.values()) {
                if (end.name().equals(name)) {
                    dialect.putArray("lineTerminators").add(end.text());
                }
            }
        });
        List<String> nulls = settings.words("null", "");
        if (nulls.size() == 1) {
            table.put("null", nulls.get(0));
        } else {
            nulls.forEach(table.putArray("null")::add);
        }
    }

    /**
     * A description's dialect as settings of a delimited file; nothing is said of what it doesn't say.
     *
     * @param nulls a text, an array of texts, or missing
     */
    public static FileSettings settings(JsonNode dialect, JsonNode nulls) {
        FileSettings settings = FileSettings.NONE;
        if (dialect.isObject()) {
            // what CSVW takes where nothing is said
            settings = settings.with("delimiter", ",").with("encoding", "UTF-8");
        }
        if (dialect.isObject() && !dialect.has("commentPrefix")) {
            settings = settings.with("commentPrefix", "#");
        }
        for (String name : SAME) {
            if (dialect.hasNonNull(name)) {
                settings = settings.with(name, dialect.get(name).asText());
            }
        }
        if (dialect.has("quoteChar")) {
            settings = settings.with(
                    "quoteChar",
                    dialect.get("quoteChar").isNull()
                            ? "none"
                            : dialect.get("quoteChar").asText());
        }
        if (dialect.path("skipInitialSpace").asBoolean(false) && !dialect.has("trim")) {
            settings = settings.with("trim", "start");
        }
        JsonNode ends = dialect.path("lineTerminators");
        if (ends.isTextual() || ends.size() > 0) {
            settings = settings.with(
                    "lineTerminators",
                    ends.isTextual() ? ends.asText() : ends.get(0).asText());
        }
        if (nulls.isTextual()) {
            settings = settings.with("null", nulls.asText());
        } else if (nulls.isArray()) {
            List<String> words = new ArrayList<>();
            nulls.forEach(n -> words.add(n.asText()));
            settings = settings.with("null", String.join("|", words));
        }
        return settings;
    }
}
