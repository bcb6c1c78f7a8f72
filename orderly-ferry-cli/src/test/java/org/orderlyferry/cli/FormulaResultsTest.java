package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.apache.poi.hssf.usermodel.HSSFWorkbook;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.ss.usermodel.Workbook;
import org.apache.poi.xssf.usermodel.XSSFCell;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.CTCell;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.STCellType;

/** What formulas have come to is read as what it is: a text of digits stays a text. */
class FormulaResultsTest {

    @TempDir
    private Path folder;

    private static void row(Sheet sheet, int at, String code, String text, double number, boolean truth) {
        Row row = sheet.createRow(at);
        Cell[] cells = new Cell[4];
        for (int i = 0; i < cells.length; i++) {
            cells[i] = row.createCell(i);
            cells[i].setCellFormula("A1");
        }
        cells[0].setCellValue(code);
        cells[1].setCellValue(text);
        cells[2].setCellValue(number);
        cells[3].setCellValue(truth);
    }

    private String converted(Path file) throws Exception {
        Path csv = folder.resolve("of.csv");
        Ferry convert = Ferry.run("convert", file, csv, "--overwrite");
        assertThat(convert.code()).as(convert.err()).isZero();
        return Files.readString(csv).replace("\r\n", "\n");
    }

    @ParameterizedTest
    @ValueSource(strings = {"xlsx", "xls"})
    void ofAnyKind(String kind) throws Exception {
        Path file = folder.resolve("label." + kind);
        try (Workbook workbook = kind.equals("xls") ? new HSSFWorkbook() : new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(file)) {
            Sheet sheet = workbook.createSheet("label");
            Row headings = sheet.createRow(0);
            String[] names = {"code", "note", "size", "dry"};
            for (int i = 0; i < names.length; i++) {
                headings.createCell(i).setCellValue(names[i]);
            }
            row(sheet, 1, "007", "#5 pots", 7, true);
            row(sheet, 2, "012.30", "3.14e+00", 0.5, false);
            row(sheet, 3, "1", "", -2, true);
            workbook.write(out);
        }
        assertThat(converted(file))
                .isEqualTo(
                        """
                        code,note,size,dry
                        007,#5 pots,7.0,true
                        012.30,3.14e+00,0.5,false
                        1,"",-2.0,true
                        """);
    }

    /** Some programs write texts in the place where a formula's result would stand. */
    @Test
    void aTextWithoutAFormula() throws Exception {
        Path file = folder.resolve("plain.xlsx");
        try (XSSFWorkbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(file)) {
            Sheet sheet = workbook.createSheet("plain");
            String[] texts = {"code", "007", "1e5", "42"};
            for (int i = 0; i < texts.length; i++) {
                CTCell cell = ((XSSFCell) sheet.createRow(i).createCell(0)).getCTCell();
                cell.setT(STCellType.STR);
                cell.setV(texts[i]);
            }
            workbook.write(out);
        }
        assertThat(converted(file)).isEqualTo("code\n007\n1e5\n42\n");
    }
}
