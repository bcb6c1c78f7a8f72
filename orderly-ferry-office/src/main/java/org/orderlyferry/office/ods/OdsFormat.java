package org.orderlyferry.office.ods;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.office.sheet.SheetFormat;
import org.orderlyferry.office.sheet.SheetInput;
import org.orderlyferry.office.sheet.SheetWriter;

/** Spreadsheets of OpenDocument. */
public final class OdsFormat extends SheetFormat {

    /** What a file says that it is; with more behind it, it is a template. */
    static final String MIME_TYPE = "application/vnd.oasis.opendocument.spreadsheet";

    /** Rows that spreadsheet programs have; the standard knows no bound. */
    static final int MOST_ROWS = 1_048_576;

    public OdsFormat() {
        super(MOST_ROWS);
    }

    @Override
    public String name() {
        return "OpenDocument spreadsheet";
    }

    @Override
    public List<String> endings() {
        return List.of("ods");
    }

    /** A ZIP file that begins with what it is. */
    @Override
    public boolean looksLike(byte[] head) {
        return head.length > 4
                && head[0] == 'P'
                && head[1] == 'K'
                && new String(head, StandardCharsets.ISO_8859_1).contains("mimetype" + MIME_TYPE);
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "a sheet of definitions in the file, and a CSVW description beside it",
                "null is a cell that isn't there, and empty text is one with an empty text",
                "numbers of up to 15 digits, dates from the year 1583 on, times to the millisecond and truth values as such;"
                        + " all else as text, which is never a formula; binary values in base64",
                List.of(
                        "a value with a character that XML 1.0 hasn't, such as U+0001, is refused",
                        "a spreadsheet program that saves the file again may change numbers and dates as it likes, and cut"
                                + " texts of more than 32,767 characters"));
    }

    @Override
    protected SheetInput open(FileSource file) {
        return new OdsInput(file);
    }

    @Override
    protected SheetWriter writer(OutputStream out, String shown, int sheetRows) {
        return new SheetWriter(new OdsSink(out, shown), sheetRows, -1);
    }
}
