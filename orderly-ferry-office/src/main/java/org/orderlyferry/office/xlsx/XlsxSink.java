package org.orderlyferry.office.xlsx;

import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.util.List;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.orderlyferry.office.sheet.SerialSink;
import org.orderlyferry.problem.PlaceException;

/** Writes a workbook's cells. */
final class XlsxSink extends SerialSink {

    /** Characters of a cell. */
    private static final int LONGEST = 32_767;

    private static final int MARK = 7;
    private static final int FLUSH = 500;

    private final String shown;
    private final OutputStream out;
    private final Workbook workbook;
    private Worksheet sheet;
    private int row;
    private boolean finished;

    XlsxSink(OutputStream out, String shown) {
        this.shown = shown;
        this.out = out;
        this.workbook = new Workbook(out, "Orderly Ferry", "1.0");
    }

    @Override
    public void begin(String name, List<String> headings, List<Integer> widths) {
        sheet = workbook.newWorksheet(name);
        sheet.freezePane(0, 1);
        for (int i = 0; i < headings.size(); i++) {
            sheet.inlineString(0, i, XString.of(headings.get(i)));
            sheet.style(0, i).bold().set();
            sheet.width(i, widths.get(i));
        }
        row = 1;
    }

    @Override
    public void mustHold(String text) {
        // a mark for a character has seven
        int length = text.length() * MARK <= LONGEST ? 0 : XString.of(text).length();
        if (length > LONGEST) {
            throw new IllegalArgumentException(
                    "a cell of a spreadsheet holds " + LONGEST + " characters, and these are " + length);
        }
    }

    @Override
    public void text(int place, String text) {
        sheet.inlineString(row, place, XString.of(text));
    }

    @Override
    public void number(int place, BigDecimal number, int scale) {
        sheet.value(row, place, number);
        if (scale > 0) {
            sheet.style(row, place).format("0." + "0".repeat(scale)).set();
        }
    }

    @Override
    public void floating(int place, double number) {
        sheet.value(row, place, number);
    }

    @Override
    public void truth(int place, boolean value) {
        sheet.value(row, place, value);
    }

    @Override
    protected void serial(int place, BigDecimal serial, String format) {
        sheet.value(row, place, serial);
        sheet.style(row, place).format(format).set();
    }

    @Override
    public void nothing() {
        // a row without a cell would be no row
        sheet.style(row, 0).format("@").set();
    }

    @Override
    public void endRow() {
        row++;
        if (row % FLUSH == 0) {
            try {
                sheet.flush();
            } catch (IOException e) {
                throw failed(e);
            }
        }
    }

    @Override
    public void end() {
        try {
            sheet.finish();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public void finish() {
        try {
            workbook.finish();
            finished = true;
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(shown, "can't be written: " + e.getMessage(), e);
    }

    /**
     * A workbook that wasn't finished is thrown away as it is: the library would try to finish it, and never end where its
     * compressor has already failed to write its last bytes.
     */
    @Override
    public void close() {
        try {
            out.close();
        } catch (IOException e) {
            if (finished) {
                throw failed(e);
            }
            org.slf4j.LoggerFactory.getLogger(XlsxSink.class).debug("{} was not finished", shown, e);
        }
    }
}
