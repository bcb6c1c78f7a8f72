package org.orderlyferry.format.csv;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.Rows;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.fit.CheckedReader;

/** What a person sees who hands over a file that isn't as it should be. */
class CsvReadingTest {

    private static final TableDefinition AB = Rows.texts(2);

    private static RecordReader reader(byte[] bytes, CsvDialect dialect, TableDefinition table) {
        return new CsvFormat(dialect).reader(new ByteArrayInputStream(bytes), "label.csv", table, table.columnNames());
    }

    private static List<List<String>> read(String text) {
        return Rows.all(reader(text.getBytes(StandardCharsets.UTF_8), CsvDialect.RFC_4180, AB));
    }

    @Test
    void columnsAreMatchedByNameNotPosition() {
        assertThat(read("b,a\r\n1,2\r\n")).containsExactly(List.of("2", "1"));
    }

    @Test
    void someColumnsCanBeAskedForInAnyOrder() {
        TableDefinition table = Rows.texts(3);
        RecordReader reader = new CsvFormat(CsvDialect.RFC_4180)
                .reader(new ByteArrayInputStream("a,b,c\n1,2,3\n".getBytes()), "label.csv", table, List.of("c", "a"));
        assertThat(Rows.all(reader)).containsExactly(List.of("3", "1"));
    }

    @Test
    void nullAndEmptyTextStayApart() {
        assertThat(read("a,b\n,\"\"\n")).containsExactly(Arrays.asList(null, ""));
    }

    @Test
    void mixedLineEndsAreReadAndTold() {
        RecordReader reader = reader("a,b\r\n1,2\n3,4\r5,6".getBytes(), CsvDialect.RFC_4180, AB);
        assertThat(Rows.all(reader)).containsExactly(List.of("1", "2"), List.of("3", "4"), List.of("5", "6"));
        assertThat(reader.findings())
                .extracting(Finding::text)
                .containsExactly(
                        "label.csv: line ends are mixed: CRLF at first, LF on line 2; each was taken as the end of"
                                + " a record");
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 7, 8, 9, 64})
    void aRecordMayBeCutByTheBufferAnywhere(int step) {
        StringBuilder text = new StringBuilder("a,b\r\n");
        List<List<String>> expected = new ArrayList<>();
        for (int i = 0; i < 40_000; i++) {
            String value = "山\"" + "x".repeat(i % 13) + "\r\n" + i;
            text.append(i).append(",\"").append(value.replace("\"", "\"\"")).append("\"\r\n");
            expected.add(List.of(String.valueOf(i), value));
        }
        byte[] bytes = text.toString().getBytes(StandardCharsets.UTF_8);
        InputStream dripping = new ByteArrayInputStream(bytes) {
            @Override
            public synchronized int read(byte[] to, int offset, int length) {
                return super.read(to, offset, Math.min(length, step * 1021));
            }
        };
        assertThat(Rows.all(new CsvFormat(CsvDialect.RFC_4180).reader(dripping, "label.csv", AB, AB.columnNames())))
                .isEqualTo(expected);
    }

    @Test
    void aValueLargerThanTheBufferCostsItsOwnSize() {
        String large = "🌿\"\n".repeat(300_000);
        assertThat(read("a,b\n1,\"" + large.replace("\"", "\"\"") + "\"\n2,x\n"))
                .containsExactly(List.of("1", large), List.of("2", "x"));
    }

    /** Of a value that is read in many pieces, each may end behind a quote that is one half of two, or between them. */
    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 3, 64 * 1024, 64 * 1024 + 1})
    void aValueOfNothingButQuotesOrOfNoneIsReadWhereverItsPiecesEnd(int more) {
        String quotes = "\"".repeat(1_500_000 + more);
        String plain = "x".repeat(5_000_000 + more);
        assertThat(read("a,b\n" + "y".repeat(1 + more % 7) + ",\"" + quotes.replace("\"", "\"\"") + "\"\n" + plain
                        + ",\"z\"\n2," + plain + "\n"))
                .containsExactly(List.of("y".repeat(1 + more % 7), quotes), List.of(plain, "z"), List.of("2", plain));
    }

    @Test
    void linesAreCountedThroughValuesThatHoldLineEnds() {
        RecordReader reader = reader("a,b\n\"x\ny\nz\",1\n2,3\n".getBytes(), CsvDialect.RFC_4180, AB);
        RecordBatch batch = new RecordBatch();
        reader.read(batch);
        assertThat(batch.origin(0).line()).isEqualTo(2);
        assertThat(batch.origin(1).line()).isEqualTo(5);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            textBlock =
                    """
            a,b~1,2~3,"x      | line 3, table label: the file ends inside the quoted value that begins in this record (value 2: 'x')
            a,b~1,2,3~        | line 2, table label: the record has 3 values, but there are 2 columns; too many from '3' on
            a,b~1,2~~3,4      | line 3, table label: the record has 1 value, but there are 2 columns; there is none for b
            a,b~1,x"y         | line 2, table label: a quote stands inside a value that doesn't begin with one (value 2: 'x'); if quotes are characters like others here, give no quote
            a,b~"1"x,2        | line 2, table label: text follows the closing quote of a value (value 1: '1"x'); if quotes are characters like others here, give no quote
            a~1               | line 1, table label: the file's columns aren't those of its definition; missing in the file: b; nothing was written
            a,b,z~1,2,3       | line 1, table label: the file's columns aren't those of its definition; not in the definition: z; nothing was written
            a,b,a~1,2,3       | line 1, table label: the column a is named twice
            ``                | line 1, table label: the file is empty, without even a header
            """)
    void aMalformedFileIsToldOfWithItsLine(String text, String message) {
        assertThatThrownBy(() -> read(text.replace('~', '\n')))
                .isInstanceOf(MalformedFileException.class)
                .hasMessage("label.csv, " + message);
    }

    @Test
    void bytesThatAreNotUtf8AreToldOfWithTheirLine() {
        byte[] bytes = "a,b\n1,2\n3,caf\u00e9s\n".getBytes(StandardCharsets.ISO_8859_1);
        assertThatThrownBy(() -> Rows.all(reader(bytes, CsvDialect.RFC_4180, AB)))
                .isInstanceOf(MalformedFileException.class)
                .hasMessage(
                        "label.csv, line 3, table label: the byte 0xE9 isn't valid UTF-8 here, after '3,caf'; if the"
                                + " file is in another encoding, give it");
        assertThat(Rows.all(reader(bytes, CsvDialect.RFC_4180.withEncoding(StandardCharsets.ISO_8859_1), AB)))
                .contains(List.of("3", "cafés"));
    }

    @Test
    void bytesThatAreNotInAnotherEncodingAreToldOfToo() {
        byte[] bytes = {'a', ',', 'b', '\n', '1', ',', (byte) 0x81, '\n'};
        CsvDialect dialect = CsvDialect.RFC_4180.withEncoding(Charset.forName("windows-1252"));
        assertThatThrownBy(() -> Rows.all(reader(bytes, dialect, AB)))
                .isInstanceOf(MalformedFileException.class)
                .hasMessageContaining("line 2")
                .hasMessageContaining("the byte 0x81 isn't valid windows-1252 here");
    }

    @Test
    void aByteOrderMarkIsTakenOffOnceAndAnotherOneIsRefused() {
        assertThat(read("\uFEFFa,b\n1,\uFEFF2\n")).containsExactly(List.of("1", "\uFEFF2"));
        assertThatThrownBy(() ->
                        Rows.all(reader("\uFEFFa,b\n".getBytes(StandardCharsets.UTF_16LE), CsvDialect.RFC_4180, AB)))
                .isInstanceOf(MalformedFileException.class)
                .hasMessageContaining("begins with the byte-order mark of UTF-16, but is to be read as UTF-8");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            SMALLINT              | 32768      | '32768' is outside the range of SMALLINT
            INTEGER               | 4.5        | '4.5' has digits behind the point, the column is INTEGER
            INTEGER               | moss       | 'moss' isn't an INTEGER
            DECIMAL(5,2)          | 1.234      | '1.234' has more than 2 digits behind the point, the column is DECIMAL(5,2)
            DECIMAL(5,2)          | 1234.00    | '1234.00' is outside the range of DECIMAL(5,2)
            DOUBLE PRECISION      | 1e999      | '1e999' is outside the range of DOUBLE PRECISION
            BOOLEAN               | maybe      | 'maybe' isn't a BOOLEAN
            CHARACTER VARYING(3)  | 苔苔苔苔     | '苔苔苔苔' has 4 characters, too many for CHARACTER VARYING(3)
            DATE                  | 2031-02-29 | '2031-02-29' isn't a DATE
            TIME(3)               | 07:30:00.1234 | '07:30:00.1234' has more than 3 digits of a second's fraction, the column is TIME(3)
            TIMESTAMP(6)          | 04/05/2031 | '04/05/2031' isn't a TIMESTAMP(6)
            UUID                  | 417        | '417' isn't a UUID
            JSON                  | {a:1}      | '{a:1}' isn't a JSON
            """)
    void aValueThatDoesNotFitIsToldOfWithFileLineColumnAndReason(String type, String value, String reason) {
        TableDefinition table = TableDefinition.named("sheet")
                .column("id", LogicalType.INTEGER)
                .column("value", LogicalType.parse(type))
                .build();
        byte[] bytes = ("id,value\n1,\n2," + value + "\n").getBytes(StandardCharsets.UTF_8);
        assertThatThrownBy(() -> Rows.all(new CheckedReader(reader(bytes, CsvDialect.RFC_4180, table))))
                .isInstanceOf(BadValueException.class)
                .hasMessage("label.csv, line 3, table sheet, column value: " + reason);
    }

    @Test
    void aMissingValueInAColumnThatMustHaveOneAndBadBase64AreToldOf() {
        TableDefinition table = TableDefinition.named("sheet")
                .column(org.orderlyferry.model.ColumnDefinition.named("id", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .column("scan", LogicalType.of(TypeName.VARBINARY, 2))
                .build();
        assertThatThrownBy(() ->
                        Rows.all(new CheckedReader(reader("id,scan\n,\n".getBytes(), CsvDialect.RFC_4180, table))))
                .hasMessage("label.csv, line 2, table sheet, column id: null isn't allowed: the column is NOT NULL");
        assertThatThrownBy(() -> Rows.all(reader("id,scan\n1,?\n".getBytes(), CsvDialect.RFC_4180, table)))
                .hasMessageContaining("line 2, table sheet, column scan: '?' isn't base64");
        assertThatThrownBy(() ->
                        Rows.all(new CheckedReader(reader("id,scan\n1,AAAA\n".getBytes(), CsvDialect.RFC_4180, table))))
                .hasMessageContaining("has too many bytes for BINARY VARYING(2)");
    }

    @Test
    void otherWaysToWriteAValueAreBroughtIntoTheProperForm() {
        TableDefinition table = TableDefinition.named("sheet")
                .column("a", LogicalType.INTEGER)
                .column("b", LogicalType.decimal(8, 2))
                .column("c", LogicalType.BOOLEAN)
                .column("d", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 6))
                .column("e", LogicalType.DOUBLE)
                .column("f", LogicalType.UUID)
                .build();
        byte[] bytes = ("a,b,c,d,e,f\n+007,1.5,1,2031-04-09 07:30:00.500+05:30,1e3,"
                        + "00417000-0000-4000-8000-00000000ABCD\n")
                .getBytes(StandardCharsets.UTF_8);
        assertThat(Rows.all(new CheckedReader(reader(bytes, CsvDialect.RFC_4180, table))))
                .containsExactly(List.of(
                        "7",
                        "1.50",
                        "true",
                        "2031-04-09T02:00:00.5Z",
                        "1000.0",
                        "00417000-0000-4000-8000-00000000abcd"));
    }
}
