package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.apache.poi.hssf.usermodel.HSSFWorkbook;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.ss.usermodel.SheetVisibility;
import org.apache.poi.ss.usermodel.Workbook;
import org.apache.poi.ss.util.CellRangeAddress;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What a person doesn't see, or has put beside, in a spreadsheet is moved like the rest, or told. */
class UnseenSheetsTest {

    @TempDir
    Path folder;

    private Ferry must(Object... arguments) {
        Ferry ferry = Ferry.run(arguments);
        assertThat(ferry.code()).as(ferry.err()).isZero();
        return ferry;
    }

    private static Workbook workbook(String kind) {
        return kind.equals("xls") ? new HSSFWorkbook() : new XSSFWorkbook();
    }

    private static Workbook opened(String kind, InputStream in) throws Exception {
        return kind.equals("xls") ? new HSSFWorkbook(in) : new XSSFWorkbook(in);
    }

    private static Sheet sheet(Workbook workbook, String name, String[]... rows) {
        Sheet sheet = workbook.createSheet(name);
        for (int i = 0; i < rows.length; i++) {
            Row row = sheet.createRow(i);
            for (int j = 0; j < rows[i].length; j++) {
                row.createCell(j).setCellValue(rows[i][j]);
            }
        }
        return sheet;
    }

    @ParameterizedTest
    @ValueSource(strings = {"xlsx", "xls"})
    void aHiddenSheetIsReadAndTold(String kind) throws Exception {
        Path file = folder.resolve("loans." + kind);
        try (Workbook workbook = workbook(kind);
                OutputStream out = Files.newOutputStream(file)) {
            sheet(workbook, "seen", new String[] {"no", "name"}, new String[] {"1", "moss"});
            sheet(workbook, "unseen", new String[] {"no", "name"}, new String[] {"2", "fern"});
            sheet(workbook, "deep", new String[] {"no", "name"}, new String[] {"3", "heath"});
            workbook.setSheetVisibility(1, SheetVisibility.HIDDEN);
            workbook.setSheetVisibility(2, SheetVisibility.VERY_HIDDEN);
            workbook.write(out);
        }
        String looked = must("look", file).out();
        assertThat(looked).contains("3 tables");
        assertThat(looked.split("is hidden from who opens the file", -1)).hasSize(3);
        Path set = folder.resolve("set");
        Ferry exported = must("export", file, set);
        assertThat(exported.out() + exported.err()).contains("hidden", "unseen", "deep");
        must("reconcile", file, set, "--depth", "rows");
    }

    private static final String[] LOANS = {"no,name,due", "1,moss,a", "2,,b", "3,fern,c"};

    private static String[][] loans() {
        return Stream.of(LOANS).map(l -> l.split(",")).toArray(String[][]::new);
    }

    private void isToldOfWhatIsDrawn(Path file) {
        assertThat(must("look", file).out())
                .contains(
                        "loans: 1 row is hidden, or filtered out, from who opens the file; it is read like the others",
                        "loans: 1 column is hidden from who opens the file; it is read like the others",
                        "loans: in one place several cells are drawn as one, in rows 2–3; only the first of them has a"
                                + " value, and the others are null")
                .contains("3  ");
        Path set = folder.resolve("drawn");
        assertThat(must("export", file, set).out()).contains("1 row is hidden", "drawn as one");
        must("reconcile", file, set, "--depth", "rows");
    }

    @ParameterizedTest
    @ValueSource(strings = {"xlsx", "xls"})
    void hiddenRowsAndCellsThatAreDrawnAsOneAreTold(String kind) throws Exception {
        Path file = folder.resolve("loans." + kind);
        try (Workbook workbook = workbook(kind);
                OutputStream out = Files.newOutputStream(file)) {
            Sheet sheet = sheet(workbook, "loans", loans());
            // what is drawn so in the headings is no record's
            sheet.addMergedRegion(new CellRangeAddress(0, 0, 1, 2));
            sheet.addMergedRegion(new CellRangeAddress(1, 2, 1, 1));
            sheet.getRow(3).setZeroHeight(true);
            sheet.setColumnHidden(2, true);
            // beyond the table
            sheet.setColumnHidden(7, true);
            workbook.write(out);
        }
        isToldOfWhatIsDrawn(file);
    }

    @Test
    void hiddenRowsOfAnOpenDocumentFileAreTold() throws Exception {
        Path csv = folder.resolve("loans.csv");
        Files.write(csv, List.of(LOANS));
        Path ods = folder.resolve("loans.ods");
        must("convert", csv, ods);
        Files.delete(folder.resolve("loans.ods-metadata.json"));
        assertThat(must("look", ods).out()).doesNotContain("hidden", "drawn as one");
        try (FileSystem parts = FileSystems.newFileSystem(ods)) {
            Path content = parts.getPath("content.xml");
            String text = Files.readString(content);
            // the sheet of definitions stands last, and says what the table is
            text = text.replaceFirst("(?s)<table:table table:name=\"Definitions\".*?</table:table>", "");
            String[] rows = text.split("(?=<table:table-row)", -1);
            assertThat(rows).hasSizeGreaterThan(4);
            rows[0] = rows[0].replaceAll("<table:table-column[^>]*/>", "");
            rows[1] = "<table:table-column table:number-columns-repeated=\"2\"/><table:table-column"
                    + " table:visibility=\"collapse\"/>" + rows[1];
            rows[2] = rows[2].replaceFirst(
                    "(<table:table-cell [^>]*>(?:(?!<table:table-cell).)*)<table:table-cell ",
                    "$1<table:table-cell table:number-rows-spanned=\"2\" ");
            rows[4] = rows[4].replaceFirst("<table:table-row", "<table:table-row table:visibility=\"filter\"");
            Files.writeString(content, String.join("", rows));
        }
        isToldOfWhatIsDrawn(ods);
    }

    @Test
    void aHiddenSheetOfAnOpenDocumentFileIsReadAndTold() throws Exception {
        Path xlsx = folder.resolve("loans.xlsx");
        try (Workbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(xlsx)) {
            sheet(workbook, "seen", new String[] {"no", "name"}, new String[] {"1", "moss"});
            sheet(workbook, "unseen", new String[] {"no", "name"}, new String[] {"2", "fern"});
            workbook.write(out);
        }
        Path ods = folder.resolve("loans.ods");
        must("convert", xlsx, ods);
        Files.delete(folder.resolve("loans.ods-metadata.json"));
        assertThat(must("look", ods).out()).doesNotContain("hidden");
        try (FileSystem parts = FileSystems.newFileSystem(ods)) {
            Path content = parts.getPath("content.xml");
            String text = Files.readString(content)
                    .replaceFirst(
                            "<office:automatic-styles>",
                            "<office:automatic-styles><style:style style:name=\"ta9\" style:family=\"table\">"
                                    + "<style:table-properties table:display=\"false\"/></style:style>")
                    .replaceFirst("table:name=\"unseen\"", "table:name=\"unseen\" table:style-name=\"ta9\"");
            Files.writeString(content, text);
        }
        String looked = must("look", ods).out();
        assertThat(looked.split("is hidden from who opens the file", -1)).hasSize(2);
    }

    @ParameterizedTest
    @ValueSource(strings = {"xlsx", "xls"})
    void aSheetThatSomebodyPutsBesideThoseThatAreDefinedIsATableToo(String kind) throws Exception {
        Path csv = Files.writeString(folder.resolve("bed.csv"), "id,name\n1,moss\n");
        Path file = folder.resolve("garden." + kind);
        must("convert", csv, file);
        Path more = folder.resolve("more." + kind);
        String description = Files.readString(folder.resolve("garden." + kind + "-metadata.json"));
        try (InputStream in = Files.newInputStream(file);
                Workbook workbook = opened(kind, in);
                OutputStream out = Files.newOutputStream(more)) {
            assertThat(workbook.getSheet("Definitions")).isNotNull();
            sheet(workbook, "plant", new String[] {"no", "name"}, new String[] {"1", "Weiße Heide"});
            workbook.write(out);
        }
        assertThat(must("look", more).out()).contains("2 tables", "plant");
        Path set = folder.resolve("set");
        must("export", more, set);
        must("reconcile", more, set, "--depth", "rows");
        assertThat(must("look", set).out()).contains("plant");
        Files.writeString(folder.resolve("more." + kind + "-metadata.json"), description.replace("garden.", "more."));
        assertThat(must("look", "--all", more).out()).contains("plant", "not in its definitions");
        Path less = folder.resolve("less");
        assertThat(must("export", more, less).out()).contains("plant", "not in its definitions");
    }

    @ParameterizedTest
    @ValueSource(strings = {"xlsx", "xls", "ods"})
    void aTableMayHaveACommaInItsName(String kind) throws Exception {
        Path csv = Files.writeString(folder.resolve("moss, fern, and others.csv"), "id,name\n1,moss\n");
        Path file = folder.resolve("garden." + kind);
        must("convert", csv, file);
        must("reconcile", csv, file, "--depth", "rows");
    }

    @Test
    void rowsAboveTheHeadingsAreTold() throws Exception {
        Path file = folder.resolve("loans.xlsx");
        try (Workbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(file)) {
            Sheet sheet = sheet(workbook, "loans");
            for (int i = 0; i < 3; i++) {
                sheet.createRow(i).createCell(0).setCellValue(i);
                sheet.getRow(i).createCell(1).setCellValue(i * 2);
            }
            sheet.createRow(4).createCell(0).setCellValue("moss");
            sheet.getRow(4).createCell(1).setCellValue("fern");
            workbook.write(out);
        }
        String told = "headings were found in row 5; what stands above, in 3 rows,";
        assertThat(must("look", file).out()).contains(told);
        assertThat(must("export", file, folder.resolve("set")).out()).contains(told);
        Ferry whole = must("look", file, "--setting", "headingRow=0");
        assertThat(whole.out()).contains("4 records").doesNotContain("headings were found");
    }
}
