package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.DateUtil;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.ss.usermodel.Workbook;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.herbarium.HostileTexts;

/** Spreadsheets that are written are read by another library, and those of another library are read. */
class SpreadsheetTest {

    @TempDir
    Path folder;

    @Test
    void anotherLibraryReadsWhatIsWritten() throws Exception {
        Path old = folder.resolve("old.mv.db");
        new Herbarium().specimens(100).readings(50).create(old);
        Path xlsx = folder.resolve("herbarium.xlsx");
        Ferry ferry = Ferry.run("convert", old, xlsx, "specimen", "label_draft", "chamber_reading");
        assertThat(ferry.code()).as(ferry.err()).isZero();
        try (Workbook workbook = new XSSFWorkbook(xlsx.toFile())) {
            Sheet drafts = workbook.getSheet("label_draft");
            assertThat(drafts.getPaneInformation().isFreezePane()).isTrue();
            assertThat(drafts.getRow(0).getCell(2).getStringCellValue()).isEqualTo("text");
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
            assertThat(reading.getCell(0).getNumericCellValue()).isEqualTo(1);
            assertThat(DateUtil.isCellDateFormatted(reading.getCell(2))).isTrue();
            assertThat(reading.getCell(5).getCellType()).isEqualTo(CellType.BOOLEAN);
            assertThat(workbook.getSheet("Definitions").getRow(1).getCell(1).getStringCellValue())
                    .isEqualTo("chamber_reading");
        }
    }

    @Test
    void formulasGiveTheirKeptResultsAndHeadingsMayStandAnywhere() throws Exception {
        Path xlsx = folder.resolve("office.xlsx");
        try (Workbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(xlsx)) {
            Sheet sheet = workbook.createSheet("Loans of 2031");
            sheet.createRow(0).createCell(0).setCellValue("Quillmoor Herbarium");
            Row headings = sheet.createRow(2);
            String[] names = {"no", "day", "sum", "dry"};
            for (int i = 0; i < names.length; i++) {
                headings.createCell(i).setCellValue(names[i]);
            }
            CellStyle date = workbook.createCellStyle();
            date.setDataFormat(workbook.createDataFormat().getFormat("d/m/yyyy"));
            for (int i = 1; i <= 3; i++) {
                Row row = sheet.createRow(2 + i);
                row.createCell(0).setCellValue(i);
                Cell day = row.createCell(1);
                day.setCellValue(LocalDate.of(2031, 4, i));
                day.setCellStyle(date);
                row.createCell(2).setCellFormula("A" + (3 + i) + "*1.5");
                row.createCell(3).setCellValue(i == 2);
            }
            workbook.getCreationHelper().createFormulaEvaluator().evaluateAll();
            workbook.createSheet("empty");
            workbook.write(out);
        }
        Path csv = folder.resolve("office.csv");
        Ferry ferry = Ferry.run("convert", xlsx, csv);
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(Files.readString(csv))
                .isEqualTo(
                        "no,day,sum,dry\r\n1,2031-04-01,1.5,false\r\n2,2031-04-02,3.0,true\r\n3,2031-04-03,4.5,false\r\n");
    }

    @Test
    void numbersOutsideOfTheCalendarAreRejectedWithTheirRow() throws Exception {
        Path xlsx = folder.resolve("days.xlsx");
        double[] serials = {45_000, 45_000.123_456_789, 1e300, -1e9, 45_001.999_999_999_9, 59, 60, 61, 2_958_465.5};
        try (Workbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(xlsx)) {
            Sheet sheet = workbook.createSheet("days");
            CellStyle moment = workbook.createCellStyle();
            moment.setDataFormat(workbook.createDataFormat().getFormat("yyyy-mm-dd hh:mm:ss.000"));
            sheet.createRow(0).createCell(0).setCellValue("name");
            sheet.getRow(0).createCell(1).setCellValue("day");
            for (int i = 0; i < serials.length; i++) {
                Row row = sheet.createRow(1 + i);
                row.createCell(0).setCellValue("moss");
                Cell day = row.createCell(1);
                day.setCellValue(serials[i]);
                day.setCellStyle(moment);
            }
            workbook.write(out);
        }
        Path csv = folder.resolve("days.csv");
        Path rejects = folder.resolve("rejects.csv");
        Ferry ferry = Ferry.run("convert", xlsx, csv, "--rejects", rejects);
        assertThat(ferry.out()).as(ferry.err()).contains("9 read = 6 written + 3 rejected");
        assertThat(Files.readString(csv))
                .isEqualTo("name,day\r\nmoss,2023-03-15T00:00:00\r\nmoss,2023-03-15T02:57:46.667\r\n"
                        + "moss,2023-03-17T00:00:00\r\nmoss,1900-02-28T00:00:00\r\nmoss,1900-03-01T00:00:00\r\n"
                        + "moss,9999-12-31T12:00:00\r\n");
        assertThat(Files.readString(rejects))
                .contains(",4,day,1.0E300,", ",5,day,", ",8,day,60", "isn't TIMESTAMP(3) to a spreadsheet: ");
    }

    @Test
    void whatAFormatDoesNotShowIsKeptAllTheSame() throws Exception {
        Path xlsx = folder.resolve("hidden.xlsx");
        String[] formats = {"yyyy-mm-dd", "[h]:mm:ss", "h:mm"};
        double[][] serials = {{45_000.5, 1.25, 0.25}, {45_001, 0.5, 0.75}};
        try (Workbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(xlsx)) {
            Sheet sheet = workbook.createSheet("hidden");
            Row headings = sheet.createRow(0);
            for (int c = 0; c < formats.length; c++) {
                headings.createCell(c).setCellValue(new String[] {"day", "length", "hour"}[c]);
            }
            for (int r = 0; r < serials.length; r++) {
                Row row = sheet.createRow(1 + r);
                for (int c = 0; c < formats.length; c++) {
                    CellStyle style = workbook.createCellStyle();
                    style.setDataFormat(workbook.createDataFormat().getFormat(formats[c]));
                    row.createCell(c).setCellValue(serials[r][c]);
                    row.getCell(c).setCellStyle(style);
                }
            }
            workbook.write(out);
        }
        Path csv = folder.resolve("hidden.csv");
        assertThat(Ferry.run("convert", xlsx, csv).code()).isZero();
        assertThat(Files.readString(csv))
                .isEqualTo("day,length,hour\r\n2023-03-15T12:00:00,1.25,06:00:00\r\n"
                        + "2023-03-16T00:00:00,12:00:00,18:00:00\r\n");
        Ferry asDate = Ferry.run("convert", xlsx, folder.resolve("no.csv"), "--type", "day=DATE");
        assertThat(asDate.err()).contains("line 2", "day", "2023-03-15T12:00:00");
    }

    /** The least that the standard asks of a file: one sheet, and no styles or shared texts. */
    private Path bare(String name, String rows) throws Exception {
        String types = "http://schemas.openxmlformats.org/package/2006/";
        String office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
        String main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
        String sheet = "application/vnd.openxmlformats-officedocument.spreadsheetml.";
        Path file = folder.resolve(name);
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(file))) {
            Map<String, String> parts = new LinkedHashMap<>();
            parts.put(
                    "[Content_Types].xml",
                    "<Types xmlns='" + types + "content-types'><Default Extension='rels' ContentType='application/"
                            + "vnd.openxmlformats-package.relationships+xml'/><Override PartName='/xl/workbook.xml'"
                            + " ContentType='" + sheet
                            + "sheet.main+xml'/><Override PartName='/xl/sheet1.xml' ContentType='"
                            + sheet + "worksheet+xml'/></Types>");
            parts.put(
                    "_rels/.rels",
                    "<Relationships xmlns='" + types + "relationships'><Relationship Id='r1' Type='" + office
                            + "/officeDocument' Target='xl/workbook.xml'/></Relationships>");
            parts.put(
                    "xl/_rels/workbook.xml.rels",
                    "<Relationships xmlns='" + types + "relationships'><Relationship Id='r1' Type='" + office
                            + "/worksheet' Target='sheet1.xml'/></Relationships>");
            parts.put(
                    "xl/workbook.xml",
                    "<workbook xmlns='" + main + "' xmlns:r='" + office
                            + "'><sheets><sheet name='label' sheetId='1' r:id='r1'/></sheets></workbook>");
            parts.put(
                    "xl/sheet1.xml", "<worksheet xmlns='" + main + "'><sheetData>" + rows + "</sheetData></worksheet>");
            for (Map.Entry<String, String> part : parts.entrySet()) {
                zip.putNextEntry(new ZipEntry(part.getKey()));
                zip.write(part.getValue().getBytes(StandardCharsets.UTF_8));
            }
        }
        return file;
    }

    @Test
    void theBarestFileIsReadAndWhatHasNoValueIsRejected() throws Exception {
        String head = "<row><c t='inlineStr'><is><t>id</t></is></c><c t='inlineStr'><is><t>size</t></is></c></row>";
        Path file = bare(
                "bare.xlsx",
                head + "<row><c><v>1</v></c><c><v>2.5</v></c></row>"
                        + "<row><c><v>2</v></c><c t='e'><v>#DIV/0!</v></c></row>"
                        + "<row><c><v>3</v></c><c><f>A2*2</f></c></row>"
                        + "<row><c><v>4</v></c><c><f>A2*2</f><v>7</v></c></row>"
                        + "<row><c><v>abc</v></c><c><v>1E+2</v></c></row>"
                        + "<row><c><v>6</v></c></row>");
        Path csv = folder.resolve("bare.csv");
        Path rejects = folder.resolve("rejects.csv");
        Ferry ferry = Ferry.run("convert", file, csv, "--rejects", rejects);
        assertThat(ferry.out()).as(ferry.err()).contains("6 read = 3 written + 3 rejected");
        assertThat(Files.readString(csv)).isEqualTo("id,size\r\n1,2.5\r\n4,7.0\r\n6,\r\n");
        assertThat(Files.readString(rejects))
                .contains(",3,size,#DIV/0!,\"is an error", ",4,size,=A2*2,has no result", ",6,id,abc,");
        Ferry dates = Ferry.run(
                "convert",
                bare("iso.xlsx", head + "<row><c t='d'><v>2031-04-09</v></c><c/></row>"),
                csv,
                "--overwrite");
        assertThat(dates.code()).isEqualTo(3);
        assertThat(dates.err()).contains("can't be read as a spreadsheet");
    }

    private interface Filling {
        void fill(XSSFWorkbook book, org.apache.poi.xssf.usermodel.XSSFSheet sheet);
    }

    private Path book(String name, Filling filling) throws Exception {
        Path file = folder.resolve(name);
        try (XSSFWorkbook book = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(file)) {
            filling.fill(book, book.createSheet("label"));
            book.write(out);
        }
        return file;
    }

    private String converted(Path book, Object... more) throws Exception {
        Path to = folder.resolve("out" + ++outs + ".csv");
        Object[] arguments = new Object[3 + more.length];
        arguments[0] = "convert";
        arguments[1] = book;
        arguments[2] = to;
        System.arraycopy(more, 0, arguments, 3, more.length);
        Ferry ferry = Ferry.run(arguments);
        assertThat(ferry.code()).as(ferry.err()).isZero();
        return Files.readString(to);
    }

    private int outs;

    @Test
    void daysAreCountedFromWhereTheWorkbookSays() throws Exception {
        Path file = book("mac.xlsx", (book, sheet) -> {
            book.getCTWorkbook().getWorkbookPr().setDate1904(true);
            var style = book.createCellStyle();
            style.setDataFormat(book.createDataFormat().getFormat("yyyy-mm-dd"));
            sheet.createRow(0).createCell(0).setCellValue("day");
            sheet.getRow(0).createCell(1).setCellValue("name");
            var cell = sheet.createRow(1).createCell(0);
            cell.setCellValue(46485);
            cell.setCellStyle(style);
            sheet.getRow(1).createCell(1).setCellValue("moss");
        });
        assertThat(converted(file)).isEqualTo("day,name\r\n2031-04-09,moss\r\n");
        rewrite(
                file,
                "xl/workbook.xml",
                xml -> xml.replace(
                        "</workbook>",
                        "<extLst><ext><x:workbookPr xmlns:x='urn:quillmoor' defaultImageDpi='0'/></ext></extLst></workbook>"));
        assertThat(converted(file)).isEqualTo("day,name\r\n2031-04-09,moss\r\n");
    }

    @Test
    void aNumberIsWhatAPersonSees() throws Exception {
        Path file = book("noise.xlsx", (book, sheet) -> {
            sheet.createRow(0).createCell(0).setCellValue("width");
            sheet.getRow(0).createCell(1).setCellValue("name");
            double[] values = {4.4, 0.07, 1.1 * 3, 123456789.123};
            for (int i = 0; i < values.length; i++) {
                sheet.createRow(i + 1).createCell(0).setCellValue(values[i]);
                sheet.getRow(i + 1).createCell(1).setCellValue("moss");
            }
        });
        // as programs write them: 17 digits, and blanks in the element
        rewrite(file, "xl/worksheets/sheet1.xml", xml -> xml.replace("<v>4.4</v>", "<v>4.4000000000000004</v>")
                .replace("<v>0.07</v>", "<v> 7.0000000000000007E-2 </v>"));
        assertThat(converted(file).replaceAll(",moss", ""))
                .startsWith("width,name\r\n4.40")
                .contains("\r\n0.07")
                .doesNotContain("4.4000000000000004")
                .contains("3.3000000000000003");
    }

    private static void rewrite(Path zip, String part, java.util.function.UnaryOperator<String> change)
            throws Exception {
        try (var files = java.nio.file.FileSystems.newFileSystem(zip)) {
            Path inside = files.getPath(part);
            String before = Files.readString(inside);
            String after = change.apply(before);
            assertThat(after).isNotEqualTo(before);
            Files.writeString(inside, after);
        }
    }

    private Path withErrors() throws Exception {
        return book("errors.xlsx", (book, sheet) -> {
            sheet.createRow(0).createCell(0).setCellValue("n");
            sheet.getRow(0).createCell(1).setCellValue("name");
            for (int i = 1; i <= 4; i++) {
                sheet.createRow(i).createCell(0).setCellValue(i);
                sheet.getRow(i).createCell(1).setCellValue("moss");
            }
            sheet.getRow(2).getCell(0).setCellErrorValue(org.apache.poi.ss.usermodel.FormulaError.NA.getCode());
            sheet.createRow(5).createCell(0).setCellValue("total");
            sheet.getRow(5).createCell(1).setCellValue("4 labels");
        });
    }

    @Test
    void anErrorCostsItsRecordOrItsValueAsToldAndIsCounted() throws Exception {
        Path file = withErrors();
        Ferry look = Ferry.run("look", file, "--setting", "lastRow=5");
        assertThat(look.out())
                .contains("3 records and 1 more that can't be taken as they are")
                .contains("#N/A");
        assertThat(converted(file, "--from-setting", "lastRow=5", "--from-setting", "errors=null")
                        .lines())
                .hasSize(5)
                .contains(",moss", "1,moss", "4,moss");
    }

    @Test
    void aFooterIsCutWhereThatIsTold() throws Exception {
        Path file = withErrors();
        assertThat(converted(file, "--from-setting", "lastRow=5", "--from-setting", "errors=null"))
                .doesNotContain("total");
        Ferry bad = Ferry.run("look", file, "--setting", "errors=maybe");
        assertThat(bad.code()).isEqualTo(2);
    }

    @Test
    void aFlippedBitIsSeen() throws Exception {
        Path file = book("bits.xlsx", (book, sheet) -> {
            sheet.createRow(0).createCell(0).setCellValue("n");
            sheet.getRow(0).createCell(1).setCellValue("name");
            for (int i = 1; i <= 50; i++) {
                sheet.createRow(i).createCell(0).setCellValue(i * 7919.25);
                sheet.getRow(i).createCell(1).setCellValue("moss " + i * 31);
            }
        });
        String right = converted(file);
        byte[] bytes = Files.readAllBytes(file);
        java.util.Random random = new java.util.Random(20310409);
        int seen = 0;
        for (int i = 0; i < 400; i++) {
            byte[] other = bytes.clone();
            other[random.nextInt(other.length)] ^= (byte) (1 << random.nextInt(8));
            Path broken = Files.write(folder.resolve("broken.xlsx"), other);
            Path to = folder.resolve("broken" + i + ".csv");
            Ferry ferry = Ferry.run("convert", broken, to);
            if (ferry.code() == 0) {
                assertThat(Files.readString(to)).isEqualTo(right);
            } else {
                assertThat(ferry.err()).startsWith("ferry: ").doesNotContain("unexpected");
                seen++;
            }
        }
        assertThat(seen).isGreaterThan(250);
    }
}
