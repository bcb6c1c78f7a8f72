package org.orderlyferry.office.xls;

import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.apache.poi.hssf.usermodel.HSSFCell;
import org.apache.poi.hssf.usermodel.HSSFCellStyle;
import org.apache.poi.hssf.usermodel.HSSFFont;
import org.apache.poi.hssf.usermodel.HSSFRow;
import org.apache.poi.hssf.usermodel.HSSFSheet;
import org.apache.poi.hssf.usermodel.HSSFWorkbook;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.util.CodePageUtil;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.office.sheet.SerialSink;
import org.orderlyferry.problem.PlaceException;
import org.slf4j.LoggerFactory;

/** Gathers a workbook's cells, which can only be written as a whole. */
final class XlsSink extends SerialSink {

    /** Characters of a cell. */
    static final int LONGEST = 32_767;

    /** Parts of a character's width. */
    private static final int WIDTH_UNIT = 256;

    private final String shown;
    private final OutputStream out;
    private final HSSFWorkbook workbook = new HSSFWorkbook();
    private final Map<String, HSSFCellStyle> styles = new HashMap<>();
    private final HSSFCellStyle heading;
    private HSSFSheet sheet;
    private int number;
    private @Nullable HSSFRow row;
    private boolean finished;

    XlsSink(OutputStream out, String shown) {
        this.out = out;
        this.shown = shown;
        // the library complains of a workbook without, and of properties without an encoding
        workbook.createInformationProperties();
        workbook.getSummaryInformation().getFirstSection().setCodepage(CodePageUtil.CP_UTF8);
        workbook.getDocumentSummaryInformation().getSections().forEach(s -> s.setCodepage(CodePageUtil.CP_UTF8));
        this.heading = workbook.createCellStyle();
        HSSFFont bold = workbook.createFont();
        bold.setBold(true);
        heading.setFont(bold);
    }

    @Override
    public void begin(String name, List<String> headings, List<Integer> widths) {
        sheet = workbook.createSheet(name);
        sheet.createFreezePane(0, 1);
        HSSFRow first = sheet.createRow(0);
        for (int i = 0; i < headings.size(); i++) {
            first.createCell(i).setCellValue(headings.get(i));
            first.getCell(i).setCellStyle(heading);
            sheet.setColumnWidth(i, widths.get(i) * WIDTH_UNIT);
        }
        number = 1;
        row = null;
    }

    private HSSFRow row() {
        if (row == null) {
            row = sheet.createRow(number);
        }
        return row;
    }

    @Override
    public void mustHold(String text) {
        if (text.length() > LONGEST) {
            throw new IllegalArgumentException(
                    "a cell of a spreadsheet holds " + LONGEST + " characters, and these are " + text.length());
        }
    }

    @Override
    public void text(int place, String text) {
        row().createCell(place, CellType.STRING).setCellValue(text);
    }

    @Override
    public void number(int place, BigDecimal value, int scale) {
        HSSFCell cell = numeric(place, value.doubleValue());
        if (scale > 0) {
            cell.setCellStyle(style("0." + "0".repeat(scale)));
        }
    }

    private HSSFCellStyle style(String format) {
        return styles.computeIfAbsent(format, f -> {
            HSSFCellStyle style = workbook.createCellStyle();
            style.setDataFormat(workbook.createDataFormat().getFormat(f));
            return style;
        });
    }

    @Override
    public void floating(int place, double value) {
        numeric(place, value);
    }

    /** Told its type, a cell isn't made as a blank one first. */
    private HSSFCell numeric(int place, double value) {
        HSSFCell cell = row().createCell(place, CellType.NUMERIC);
        cell.setCellValue(value);
        return cell;
    }

    @Override
    public void truth(int place, boolean value) {
        row().createCell(place, CellType.BOOLEAN).setCellValue(value);
    }

    @Override
    protected void serial(int place, BigDecimal serial, String format) {
        numeric(place, serial.doubleValue()).setCellStyle(style(format));
    }

    @Override
    public void nothing() {
        row().createCell(0).setBlank();
    }

    @Override
    public void endRow() {
        number++;
        row = null;
    }

    @Override
    public void end() {
        // a workbook is written as a whole
    }

    @Override
    public void finish() {
        try {
            workbook.write(out);
            finished = true;
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(shown, "can't be written: " + e.getMessage(), e);
    }

    @Override
    public void close() {
        try (out) {
            workbook.close();
        } catch (IOException e) {
            if (finished) {
                throw failed(e);
            }
            LoggerFactory.getLogger(XlsSink.class).debug("{} was not finished", shown, e);
        }
    }
}
