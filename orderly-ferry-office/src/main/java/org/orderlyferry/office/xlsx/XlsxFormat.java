package org.orderlyferry.office.xlsx;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.office.sheet.SheetFormat;
import org.orderlyferry.office.sheet.SheetInput;
import org.orderlyferry.office.sheet.SheetWriter;

/** Spreadsheets of Office Open XML. */
public final class XlsxFormat extends SheetFormat {

    private static final int MOST_ROWS = 1_048_576;

    /** So few bytes fit, whatever marks stand for their characters. */
    private static final int SURELY_HELD = 4_000;

    public XlsxFormat() {
        super(MOST_ROWS);
    }

    @Override
    public String name() {
        return "spreadsheet";
    }

    @Override
    public List<String> endings() {
        return List.of("xlsx");
    }

    /** A ZIP file whose first part is one of those that such files begin with. */
    @Override
    public boolean looksLike(byte[] head) {
        if (head.length < 4 || head[0] != 'P' || head[1] != 'K' || head[2] != 3 || head[3] != 4) {
            return false;
        }
        String text = new String(head, StandardCharsets.ISO_8859_1);
        return !text.contains("mimetypeapplication/")
                && (text.contains("[Content_Types].xml") || text.contains("xl/") || text.contains("_rels/"));
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "a sheet of definitions in the file, and a CSVW description beside it",
                "null is a cell that isn't there, and empty text is one with an empty text",
                "numbers of up to 15 digits, dates from March 1900 on, times to the millisecond and truth values as such;"
                        + " all else as text, which is never a formula; binary values in base64",
                List.of(
                        "a value of more than 32,767 characters is refused",
                        "a spreadsheet program that saves the file again may change numbers and dates as it likes"));
    }

    @Override
    protected SheetInput open(FileSource file) {
        return new XlsxInput(file);
    }

    @Override
    protected SheetWriter writer(OutputStream out, String shown, int sheetRows) {
        return new SheetWriter(new XlsxSink(out, shown), sheetRows, SURELY_HELD);
    }
}
