package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.orderlyferry.cli.OdsFile.cell;
import static org.orderlyferry.cli.OdsFile.row;
import static org.orderlyferry.cli.OdsFile.sheet;
import static org.orderlyferry.cli.OdsFile.text;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import org.apache.poi.hssf.record.LabelSSTRecord;
import org.apache.poi.hssf.record.NumberRecord;
import org.apache.poi.hssf.usermodel.HSSFWorkbook;
import org.apache.poi.poifs.filesystem.POIFSFileSystem;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Files of many tables are opened once, and each table is read alone, in whatever order and several at once. */
class ManySheetsTest {

    private static final int TABLES = 12;
    private static final int ROWS = 150;

    /** Of one to four bytes in UTF-8, of one and two units in UTF-16. */
    private static final List<String> NOTES = List.of("moss", "cr\u00EApe", "\u685C", "\uD83C\uDF3F & <fern>", "x");

    @TempDir
    private Path folder;

    private static String note(int table, int row) {
        return NOTES.get((table + row) % NOTES.size()) + " " + table + "." + row;
    }

    private Path tables() throws Exception {
        Path csvs = Files.createDirectory(folder.resolve("beds"));
        for (int table = 0; table < TABLES; table++) {
            StringBuilder csv = new StringBuilder("id,note\n");
            for (int row = 0; row < ROWS; row++) {
                csv.append(row).append(",\"").append(note(table, row)).append("\"\n");
            }
            Files.writeString(csvs.resolve("bed" + (char) ('a' + table) + ".csv"), csv);
        }
        return csvs;
    }

    private static void mustBe(RecordReader reader, int table, int most) {
        RecordBatch batch = new RecordBatch();
        int row = 0;
        while (row < most && reader.read(batch)) {
            for (int i = 0; i < batch.rows(); i++, row++) {
                assertThat(batch.text(i, 1)).isEqualTo(note(table, row));
            }
        }
        assertThat(row).isEqualTo(most);
    }

    private static void mustHoldAll(Path file) {
        try (Place place = Places.open(file)) {
            List<TableName> names = place.tables();
            assertThat(names).hasSize(TABLES);
            List<Integer> order = new ArrayList<>();
            for (int i = 0; i < TABLES; i++) {
                order.add(i);
            }
            Collections.shuffle(order, new Random(7));
            for (int i = 0; i < TABLES; i += 2) {
                int one = order.get(i);
                int other = order.get(i + 1);
                try (RecordReader first = place.read(Slice.whole(place.define(names.get(one))));
                        RecordReader second = place.read(Slice.whole(place.define(names.get(other))))) {
                    mustBe(second, other, ROWS);
                    mustBe(first, one, ROWS);
                }
                assertThat(place.count(names.get(one))).isEqualTo(ROWS);
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"ods", "xlsx", "xls", "accdb", "ods.gz", "accdb.gz"})
    void eachIsReadAlone(String ending) throws Exception {
        Path book = folder.resolve("beds." + ending);
        Ferry convert = Ferry.run("convert", tables(), book);
        assertThat(convert.code()).as(convert.err()).isZero();
        mustHoldAll(book);
        Ferry look = Ferry.run("look", book);
        assertThat(look.out()).as(look.err()).contains("beda", "bedl", "1,800");
    }

    private static String sheetOf(int table, String before) {
        StringBuilder rows = new StringBuilder(row(text("id"), text("note")));
        for (int row = 0; row < ROWS; row++) {
            rows.append(row(
                    cell("float", "value", Integer.toString(row)),
                    text(note(table, row).replace("&", "&amp;").replace("<", "&lt;"))));
        }
        return before + sheet("bed" + (char) ('a' + table), rows.toString());
    }

    /** Other programs' files: remarks, prefixes that change, line ends of two characters, what is no sheet. */
    @Test
    void whereverTheyStandInOtherProgramsFiles() throws Exception {
        String[] before = {
            "",
            "<!-- \uD83C\uDF3F <t:table> -->",
            "\r\n\r\n",
            "<t:dde-links/>",
            "<?note \u685C?>",
            "<t:shapes><t:table t:name='drawn'/></t:shapes>"
        };
        StringBuilder sheets = new StringBuilder();
        for (int table = 0; table < TABLES; table++) {
            sheets.append(sheetOf(table, before[table % before.length]));
        }
        mustHoldAll(OdsFile.write(folder.resolve("beds.ods"), sheets.toString(), ""));
        // prefixes that stand for one thing around some sheets, and for another around others
        String group = "<t:group xmlns:y='urn:oasis:names:tc:opendocument:xmlns:text:1.0'>";
        String mixed = sheets.toString().replace("x:p>", "y:p>");
        int half = mixed.indexOf("<t:table t:name='bedg'>");
        mustHoldAll(OdsFile.write(
                folder.resolve("mixed.ods"),
                group + mixed.substring(0, half)
                        + "</t:group><t:group xmlns:y='urn:oasis:names:tc:opendocument:xmlns:text:1.0' xmlns:z='urn:z'>"
                        + mixed.substring(half) + "</t:group>",
                ""));
    }

    /** Takes a workbook's cells apart, and puts them together in another order, column by column. */
    private static byte[] columnByColumn(byte[] stream) {
        ByteBuffer in = ByteBuffer.wrap(stream).order(ByteOrder.LITTLE_ENDIAN);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        List<byte[]> cells = new ArrayList<>();
        while (in.remaining() >= 4) {
            int at = in.position();
            int kind = in.getShort() & 0xFFFF;
            byte[] record = new byte[4 + (in.getShort() & 0xFFFF)];
            in.position(at).get(record);
            if (kind == NumberRecord.sid || kind == LabelSSTRecord.sid) {
                cells.add(record);
                continue;
            }
            if (!cells.isEmpty()) {
                // the column's number stands behind the row's
                cells.sort(Comparator.comparingInt(c -> c[6]));
                cells.forEach(out::writeBytes);
                cells.clear();
            }
            out.writeBytes(record);
        }
        return Arrays.copyOf(out.toByteArray(), stream.length);
    }

    /** Some programs write a binary workbook so. */
    @Test
    void rowsMayStandInNoOrder() throws Exception {
        ByteArrayOutputStream whole = new ByteArrayOutputStream();
        try (HSSFWorkbook workbook = new HSSFWorkbook()) {
            for (int table = 0; table < TABLES; table++) {
                Sheet sheet = workbook.createSheet("bed" + (char) ('a' + table));
                // fewer than a block of rows, which is written at once
                for (int row = -1; row < 25; row++) {
                    Row cells = sheet.createRow(row + 1);
                    if (row < 0) {
                        cells.createCell(0).setCellValue("id");
                    } else {
                        cells.createCell(0).setCellValue(row);
                    }
                    cells.createCell(1).setCellValue(row < 0 ? "note" : note(table, row));
                }
            }
            workbook.write(whole);
        }
        Path file = folder.resolve("beds.xls");
        try (POIFSFileSystem parts = new POIFSFileSystem(new ByteArrayInputStream(whole.toByteArray()));
                OutputStream out = Files.newOutputStream(file)) {
            byte[] stream;
            try (InputStream in = parts.createDocumentInputStream("Workbook")) {
                stream = in.readAllBytes();
            }
            byte[] changed = columnByColumn(stream);
            assertThat(changed).isNotEqualTo(stream);
            parts.createOrUpdateDocument(new ByteArrayInputStream(changed), "Workbook");
            parts.writeFilesystem(out);
        }
        try (Place place = Places.open(file)) {
            assertThat(place.tables()).hasSize(TABLES);
            for (int table = 0; table < TABLES; table++) {
                try (RecordReader reader =
                        place.read(Slice.whole(place.define(place.tables().get(table))))) {
                    mustBe(reader, table, 25);
                }
            }
        }
    }
}
