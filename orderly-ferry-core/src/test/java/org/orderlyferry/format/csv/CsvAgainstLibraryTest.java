package org.orderlyferry.format.csv;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.StringReader;
import java.io.StringWriter;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;
import org.apache.commons.csv.QuoteMode;
import org.orderlyferry.Rows;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordWriter;

/** Our reader and writer against an independent library, on generated records in generated dialects. */
class CsvAgainstLibraryTest {

    @Provide
    Arbitrary<List<List<String>>> tables() {
        Arbitrary<String> pieces = Arbitraries.of(
                "",
                " ",
                ",",
                ";",
                "\t",
                "|",
                "\"",
                "'",
                "\r",
                "\n",
                "\r\n",
                "null",
                "\\N",
                "00417",
                "ü",
                "山",
                "🌿",
                "é",
                "abcdefgh",
                "a",
                "-0.0",
                "=1+2",
                "#",
                "x\"y",
                "\uFEFF");
        Arbitrary<String> text = Arbitraries.oneOf(
                pieces.list().ofMaxSize(6).map(parts -> String.join("", parts)),
                Arbitraries.strings().all().ofMaxLength(40).filter(CsvAgainstLibraryTest::isText));
        Arbitrary<String> value = text.injectNull(0.1);
        return Arbitraries.integers()
                .between(1, 5)
                .flatMap(columns -> value.list().ofSize(columns).list().ofMaxSize(12));
    }

    private static boolean isText(String text) {
        return StandardCharsets.UTF_8.newEncoder().canEncode(text);
    }

    @Provide
    Arbitrary<CsvDialect> dialects() {
        // With their types written out: one call that infers all six has been refused by the compiler once.
        Arbitrary<Character> delimiters = Arbitraries.of(',', ';', '\t', '|', ':');
        Arbitrary<Character> quotes = Arbitraries.of('"', '\'');
        Arbitrary<LineEnd> lineEnds = Arbitraries.of(LineEnd.CRLF, LineEnd.LF, LineEnd.CR);
        Arbitrary<Charset> encodings = Arbitraries.of(StandardCharsets.UTF_8, StandardCharsets.UTF_16);
        Arbitrary<Boolean> headers = Arbitraries.of(true, false);
        Arbitrary<String> nullTexts = Arbitraries.of("", "\\N", "null");
        return Combinators.combine(delimiters, quotes, lineEnds, encodings, headers, nullTexts)
                .as(CsvDialect::new);
    }

    @Property(tries = 600)
    void whatWeWriteTheLibraryReads(@ForAll("tables") List<List<String>> rows, @ForAll("dialects") CsvDialect dialect)
            throws IOException {
        String written = new String(write(rows, dialect), dialect.encoding());
        List<List<String>> read = new ArrayList<>();
        CSVFormat format = library(dialect)
                .setNullString(dialect.nullText())
                .setQuoteMode(QuoteMode.ALL_NON_NULL)
                .get();
        try (CSVParser parser = format.parse(new StringReader(written))) {
            for (CSVRecord record : parser) {
                read.add(record.toList());
            }
        }
        if (dialect.header()) {
            read.remove(0);
        }
        assertThat(read).isEqualTo(rows);
    }

    @Property(tries = 600)
    void whatTheLibraryWritesWeRead(@ForAll("tables") List<List<String>> rows, @ForAll("dialects") CsvDialect dialect)
            throws IOException {
        StringWriter text = new StringWriter();
        CSVFormat format = library(dialect)
                .setNullString(dialect.nullText())
                .setQuoteMode(QuoteMode.ALL_NON_NULL)
                .setRecordSeparator(dialect.lineEnd().text())
                .get();
        try (CSVPrinter printer = new CSVPrinter(text, format)) {
            if (dialect.header()) {
                printer.printRecord(Rows.texts(columns(rows)).columnNames());
            }
            for (List<String> row : rows) {
                printer.printRecord(row);
            }
        }
        assertThat(read(text.toString().getBytes(dialect.encoding()), rows, dialect))
                .isEqualTo(rows);
    }

    @Property(tries = 600)
    void whatWeWriteWeRead(@ForAll("tables") List<List<String>> rows, @ForAll("dialects") CsvDialect dialect) {
        assertThat(read(write(rows, dialect), rows, dialect)).isEqualTo(rows);
    }

    private static CSVFormat.Builder library(CsvDialect dialect) {
        return CSVFormat.RFC4180
                .builder()
                .setDelimiter(dialect.delimiter())
                .setQuote(dialect.quote())
                .setIgnoreEmptyLines(false);
    }

    private static int columns(List<List<String>> rows) {
        return rows.isEmpty() ? 1 : rows.get(0).size();
    }

    private static byte[] write(List<List<String>> rows, CsvDialect dialect) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        TableDefinition table = Rows.texts(columns(rows));
        try (RecordWriter writer = new CsvFormat(dialect).writer(out, table)) {
            writer.write(Rows.batch(rows, columns(rows)));
            writer.finish();
        }
        return out.toByteArray();
    }

    private static List<List<String>> read(byte[] bytes, List<List<String>> rows, CsvDialect dialect) {
        TableDefinition table = Rows.texts(columns(rows));
        return Rows.all(new CsvFormat(dialect)
                .reader(new ByteArrayInputStream(bytes), "label.csv", table, table.columnNames()));
    }
}
