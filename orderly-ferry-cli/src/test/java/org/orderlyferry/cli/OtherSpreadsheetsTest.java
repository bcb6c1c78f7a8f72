package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.orderlyferry.cli.OdsFile.cell;
import static org.orderlyferry.cli.OdsFile.row;
import static org.orderlyferry.cli.OdsFile.sheet;
import static org.orderlyferry.cli.OdsFile.text;

import com.github.miachm.sods.Range;
import com.github.miachm.sods.SpreadSheet;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import org.apache.poi.hssf.record.crypto.Biff8EncryptionKey;
import org.apache.poi.hssf.usermodel.HSSFWorkbook;
import org.apache.poi.poifs.crypt.Decryptor;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.DateUtil;
import org.apache.poi.ss.usermodel.FormulaError;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.ss.usermodel.Workbook;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.herbarium.HostileTexts;

/** Spreadsheets of OpenDocument and of the binary format: other libraries read what is written, and theirs are read. */
class OtherSpreadsheetsTest {

    @TempDir
    Path folder;

    private Path old;
    private int outs;

    @BeforeEach
    void herbarium() {
        old = folder.resolve("old.mv.db");
    }

    private Ferry must(int code, Object... arguments) {
        Ferry ferry = Ferry.run(arguments);
        assertThat(ferry.code()).as(ferry.out() + ferry.err()).isEqualTo(code);
        return ferry;
    }

    private String converted(Path book, Object... more) throws Exception {
        Path to = folder.resolve("out" + ++outs + ".csv");
        List<Object> arguments = new ArrayList<>(List.of("convert", book, to));
        arguments.addAll(List.of(more));
        must(0, arguments.toArray());
        return Files.readString(to).replace("\r\n", "|");
    }

    @ParameterizedTest
    @ValueSource(strings = {"ods", "xls"})
    void theHerbariumComesBackByItsDefinitions(String ending) throws Exception {
        new Herbarium().specimens(300).readings(200).create(old);
        Path book = folder.resolve("herbarium." + ending);
        // an empty text is a text, and a row of nulls a row
        must(0, "convert", old, book, "specimen", "taxon", "loan", "chamber_reading", "determination");
        for (String table : new String[] {"specimen", "taxon", "loan", "chamber_reading", "determination"}) {
            must(0, "reconcile", old, book, table, "--depth", "rows");
        }
    }

    @Test
    void anotherLibraryReadsWhatIsWrittenAsOpenDocument() throws Exception {
        new Herbarium().specimens(100).readings(50).create(old);
        Path ods = folder.resolve("herbarium.ods");
        must(0, "convert", old, ods, "specimen", "chamber_reading");
        SpreadSheet book = new SpreadSheet(ods.toFile());
        Range readings = book.getSheet("chamber_reading").getDataRange();
        assertThat(readings.getCell(0, 0).getValue()).isEqualTo("id");
        assertThat(readings.getCell(1, 0).getValue()).isEqualTo(1.0);
        assertThat(readings.getCell(1, 2).getValue()).isInstanceOf(LocalDateTime.class);
        assertThat(readings.getCell(1, 5).getValue()).isInstanceOf(Boolean.class);
        assertThat(readings.getNumRows()).isEqualTo(51);
        assertThat(book.getSheet("Definitions").getRange(1, 1).getValue()).isEqualTo("chamber_reading");
    }

    @Test
    void anotherLibraryReadsWhatIsWrittenInTheBinaryFormat() throws Exception {
        new Herbarium().specimens(100).readings(50).create(old);
        Path xls = folder.resolve("herbarium.xls");
        must(0, "convert", old, xls, "label_draft", "chamber_reading");
        try (InputStream in = Files.newInputStream(xls);
                Workbook workbook = new HSSFWorkbook(in)) {
            Sheet drafts = workbook.getSheet("label_draft");
            assertThat(drafts.getPaneInformation().isFreezePane()).isTrue();
            int found = 0;
            for (Row row : drafts) {
                Cell text = row.getCell(2);
                if (text != null) {
                    assertThat(text.getCellType()).isEqualTo(CellType.STRING);
                    found += HostileTexts.ALL.contains(text.getStringCellValue()) ? 1 : 0;
                }
            }
            assertThat(found).isGreaterThanOrEqualTo(HostileTexts.ALL.size());
            Row reading = workbook.getSheet("chamber_reading").getRow(1);
            assertThat(DateUtil.isCellDateFormatted(reading.getCell(2))).isTrue();
            assertThat(reading.getCell(5).getCellType()).isEqualTo(CellType.BOOLEAN);
        }
    }

    @Test
    void openDocumentOfAnotherLibraryIsRead() throws Exception {
        Path ods = folder.resolve("beds.ods");
        SpreadSheet book = new SpreadSheet();
        com.github.miachm.sods.Sheet sheet = new com.github.miachm.sods.Sheet("beds", 3, 5);
        Object[][] rows = {
            {"no", "name", "sown", "watered", "dry"},
            {1, "moss  and\tfern", LocalDate.of(2031, 4, 9), LocalTime.of(7, 30), true},
            {2.5, "  two\nlines ", LocalDate.of(1899, 1, 1), LocalTime.of(23, 59, 59), false}
        };
        for (int r = 0; r < rows.length; r++) {
            for (int c = 0; c < rows[r].length; c++) {
                sheet.getRange(r, c).setValue(rows[r][c]);
            }
        }
        book.appendSheet(sheet);
        book.save(ods.toFile());
        assertThat(converted(ods)).startsWith("no,name,sown,watered,dry|1.0,").contains(",2031-04-09,", "1899-01-01");
    }

    /** A file with these elements in its one sheet. */
    private Path ods(String name, String rows) throws Exception {
        return ods(name, rows, "");
    }

    private Path ods(String name, String rows, String manifest) throws Exception {
        return OdsFile.write(folder.resolve(name), sheet("label", rows), manifest);
    }

    @Test
    void whatTheStandardSaysOfCellsIsUnderstood() throws Exception {
        String heads = "<t:table-header-rows>" + row(text("n"), text("name"), text("on")) + "</t:table-header-rows>";
        Path file = ods(
                "standard.ods",
                heads
                        + "<t:table-row-group>"
                        + row(
                                cell("float", "value", "1"),
                                "<t:table-cell o:value-type='string'><o:annotation><x:p>a comment</x:p></o:annotation>"
                                        + "<x:p> one <x:span>two</x:span><x:s x:c='3'/>three<x:tab/>\n  four</x:p>"
                                        + "<x:p>five<x:line-break/>six<x:note>no</x:note></x:p></t:table-cell>",
                                cell("date", "date-value", "2031-04-09"))
                        + "</t:table-row-group>"
                        + "<t:table-row t:number-rows-repeated='3'><t:table-cell t:number-columns-repeated='16384'/>"
                        + "</t:table-row>"
                        + "<t:table-row t:number-rows-repeated='2'>"
                        + cell("percentage", "value", "0.5")
                                .replace("<t:table-cell ", "<t:table-cell t:style-name='p' ")
                        + "<t:covered-table-cell/>" + cell("date", "date-value", "2031-04-09T01:02:03.5")
                        + "</t:table-row>"
                        + "<t:table-row t:number-rows-repeated='1048000'><t:table-cell/></t:table-row>");
        assertThat(converted(file))
                .isEqualTo("n,name,on|1.0,\"one two   three\t four\nfive\nsix\",2031-04-09T00:00:00|"
                        + "0.5,,2031-04-09T01:02:03.5|0.5,,2031-04-09T01:02:03.5|");
    }

    /** Programs count in days, as doubles, and show some numbers as truth values. */
    @Test
    void valuesAreThoseThatAProgramHolds() throws Exception {
        Path file = ods(
                "odd.ods",
                row(text("dry"), text("odd"), text("for"), text("at"), text("exact"))
                        + row(
                                cell("boolean", "boolean-value", "true"),
                                cell("boolean", "boolean-value", "-2"),
                                cell("time", "time-value", "PT03H53M46.000001631S"),
                                cell("date", "date-value", "2031-12-31T23:59:59.999999665"),
                                cell("time", "time-value", "PT03H53M46.000001S"))
                        + row(
                                cell("boolean", "boolean-value", "false"),
                                cell("boolean", "boolean-value", "true"),
                                cell("time", "time-value", "PT07H23M59.999999665S"),
                                cell("date", "date-value", "2031-04-09"),
                                cell("time", "time-value", "PT00H00M00.25S")));
        assertThat(converted(file))
                .isEqualTo("dry,odd,for,at,exact|true,-2,03:53:46,2032-01-01T00:00:00,03:53:46.000001|"
                        + "false,true,07:24:00,2031-04-09T00:00:00,00:00:00.25|");
        assertThat(must(0, "look", file).out()).contains("TIME(3)", "TIME(6)");
    }

    @Test
    void whatHasNoValueIsRejectedWithItsRow() throws Exception {
        Path file = ods(
                "errors.ods",
                row(text("n"), text("name"))
                        + row(cell("float", "value", "1"), text("moss"))
                        + row("<t:table-cell t:formula='of:=[.A2]*2'/>", text("fern"))
                        + row(
                                "<t:table-cell o:value-type='string' c:value-type='error'><x:p>#N/A</x:p></t:table-cell>",
                                text("sedge"))
                        + row(cell("float", "value", "many"), text("reed")));
        Path rejects = folder.resolve("rejects.csv");
        Path csv = folder.resolve("errors.csv");
        Ferry ferry = Ferry.run("convert", file, csv, "--rejects", rejects);
        assertThat(ferry.out()).as(ferry.err()).contains("4 read = 1 written + 3 rejected");
        assertThat(Files.readString(rejects))
                .contains(",3,n,=of:=[.A2]*2,has no result", ",4,n,#N/A,\"is an error", ",5,n,many,");
    }

    @Test
    void filesThatWereMadeToDoHarmOrNeedAPasswordAreRefused() throws Exception {
        String heads = row(text("n"), text("name"));
        String much =
                cell("float", "value", "1").replace("<t:table-cell ", "<t:table-cell t:number-columns-repeated='%s' ");
        for (String[] bad : new String[][] {
            {heads + row(String.format(much, "2000000000")), "columns"},
            {heads + row(String.format(much, "-5x")), "number"},
            {heads + "<t:table-row t:number-rows-repeated='2000000000'>" + text("x") + "</t:table-row>", "rows"},
            {heads + row(text("<x:s x:c='2000000000'/>")), "number"},
            {heads + "<t:table-row>", "can't be read"}
        }) {
            Ferry ferry = must(3, "convert", ods("bad.ods", bad[0]), folder.resolve("bad.csv"), "--overwrite");
            assertThat(ferry.err()).contains("can't be read as a spreadsheet", bad[1]);
        }
        Path locked = ods("locked.ods", heads, "<m:file-entry><m:encryption-data/></m:file-entry>");
        assertThat(must(3, "look", locked).err()).contains("encrypted");
        // the second is the one that programs try by themselves
        for (String password : new String[] {"moss", Decryptor.DEFAULT_PASSWORD}) {
            Path xls = folder.resolve("locked.xls");
            Biff8EncryptionKey.setCurrentUserPassword(password);
            try (Workbook workbook = new HSSFWorkbook();
                    OutputStream out = Files.newOutputStream(xls)) {
                workbook.createSheet("label").createRow(0).createCell(0).setCellValue("n");
                workbook.write(out);
            } finally {
                Biff8EncryptionKey.setCurrentUserPassword(null);
            }
            assertThat(must(3, "look", xls).err()).contains("password");
        }
        Path none = folder.resolve("none.xls");
        try (var parts = new org.apache.poi.poifs.filesystem.POIFSFileSystem();
                OutputStream out = Files.newOutputStream(none)) {
            parts.createDocument(new java.io.ByteArrayInputStream(new byte[10]), "Letter");
            parts.writeFilesystem(out);
        }
        assertThat(must(3, "look", none).err()).contains("without a workbook");
        Path text = Files.writeString(folder.resolve("text.xls"), "n\tname\n1\tmoss\n");
        assertThat(must(3, "look", text).err()).contains("--format csv");
        assertThat(must(0, "look", text, "--format", "csv").out()).contains("1 record", "2 fields");
    }

    @Test
    void theBinaryFormatsKindsOfCellsAreUnderstood() throws Exception {
        Path xls = folder.resolve("kinds.xls");
        try (HSSFWorkbook workbook = new HSSFWorkbook();
                OutputStream out = Files.newOutputStream(xls)) {
            Sheet other = workbook.createSheet("other");
            other.createRow(0).createCell(0).setCellValue("a");
            other.getRow(0).createCell(1).setCellValue("b");
            other.createRow(1).createCell(0).setCellValue("x");
            Sheet sheet = workbook.createSheet("kinds");
            Row heads = sheet.createRow(2);
            String[] names = {"no", "day", "sum", "dry", "said", "odd"};
            for (int i = 0; i < names.length; i++) {
                heads.createCell(i).setCellValue(names[i]);
            }
            CellStyle date = workbook.createCellStyle();
            date.setDataFormat(workbook.createDataFormat().getFormat("d/m/yyyy"));
            for (int i = 1; i <= 3; i++) {
                Row row = sheet.createRow(2 + i * 2);
                row.createCell(0).setCellValue(i);
                row.createCell(1).setCellValue(LocalDate.of(2031, 4, i));
                row.getCell(1).setCellStyle(date);
                row.createCell(2).setCellFormula("A" + (3 + i * 2) + "*1.5");
                row.createCell(3).setCellValue(i == 2);
                row.createCell(4).setCellFormula("\"no \"&A" + (3 + i * 2));
                if (i == 2) {
                    row.createCell(5).setCellErrorValue(FormulaError.NA.getCode());
                }
            }
            workbook.getCreationHelper().createFormulaEvaluator().evaluateAll();
            workbook.setSheetOrder("kinds", 0);
            workbook.write(out);
        }
        assertThat(converted(xls, "kinds", "--from-setting", "errors=null"))
                .isEqualTo("no,day,sum,dry,said,odd|1,2031-04-01,1.5,false,no 1,|2,2031-04-02,3.0,true,no 2,|"
                        + "3,2031-04-03,4.5,false,no 3,|");
        assertThat(converted(xls, "other")).isEqualTo("a,b|x,|");
        assertThat(must(3, "convert", xls, folder.resolve("no.csv"), "kinds").err())
                .contains("#N/A", "line 7");
    }

    @Test
    void aTableGoesOnInAnotherSheetAndOneThatIsTooWideIsRefused() throws Exception {
        Path csv = folder.resolve("many.csv");
        StringBuilder text = new StringBuilder("n,t\n");
        for (int i = 0; i < 70_000; i++) {
            text.append(i).append(",t").append(i).append('\n');
        }
        Files.writeString(csv, text);
        Path xls = folder.resolve("many.xls");
        must(0, "convert", csv, xls);
        must(0, "reconcile", csv, xls, "--depth", "rows");
        Files.writeString(
                csv,
                "c"
                        + String.join(
                                ",c",
                                java.util.stream.IntStream.range(0, 300)
                                        .mapToObj(Integer::toString)
                                        .toArray(String[]::new))
                        + "\n");
        assertThat(must(2, "convert", csv, folder.resolve("wide.xls")).err()).contains("300 columns", "256");
        assertThat(folder.resolve("wide.xls")).doesNotExist();
    }

    @Test
    void aNameThatNoCellHoldsIsRefusedBeforeAnythingIsWritten() throws Exception {
        Path csv = Files.writeString(folder.resolve("names.csv"), "n,a\u0001b\n1,moss\n");
        Path ods = folder.resolve("names.ods");
        assertThat(must(2, "convert", csv, ods).err())
                .contains("a\\u0001b", "XML 1.0")
                .doesNotContain("\u0001");
        assertThat(ods).doesNotExist();
        Path xls = folder.resolve("names.xls");
        must(0, "convert", csv, xls);
        must(0, "reconcile", csv, xls);
    }

    /** A sheet that is a chart keeps what it draws in cells of its own: a copy, in the order of what is drawn. */
    @Test
    void aChartIsNoTable() throws Exception {
        ByteArrayOutputStream written = new ByteArrayOutputStream();
        try (Workbook workbook = new HSSFWorkbook()) {
            for (String name : List.of("label", "drawn")) {
                Sheet sheet = workbook.createSheet(name);
                sheet.createRow(0).createCell(0).setCellValue("note");
                sheet.createRow(1).createCell(0).setCellValue("moss");
            }
            workbook.write(written);
        }
        // the last sheet's beginning, by the record that says of what kind it is
        String bytes = written.toString(StandardCharsets.ISO_8859_1);
        int begin = bytes.lastIndexOf("\u0009\u0008\u0010\u0000\u0000\u0006\u0010\u0000");
        byte[] file = written.toByteArray();
        file[begin + 6] = 0x20;
        Path xls = Files.write(folder.resolve("drawn.xls"), file);
        assertThat(must(0, "look", xls).out()).contains("label  1 record").doesNotContain("drawn  1 record");
        must(0, "convert", xls, folder.resolve("drawn.csv"));
    }

    @Test
    void theStrictFormIsToldForWhatItIs() throws Exception {
        Path csv = Files.writeString(folder.resolve("strict.csv"), "n,note\n1,moss\n");
        Path xlsx = folder.resolve("strict.xlsx");
        must(0, "convert", csv, xlsx);
        try (FileSystem parts = FileSystems.newFileSystem(xlsx)) {
            Path workbook = parts.getPath("xl/workbook.xml");
            Files.writeString(
                    workbook,
                    Files.readString(workbook)
                            .replace(
                                    "http://schemas.openxmlformats.org/spreadsheetml/2006/main",
                                    "http://purl.oclc.org/ooxml/spreadsheetml/main"));
        }
        assertThat(must(3, "look", xlsx).err()).contains("strict form of Office Open XML");
    }
}
