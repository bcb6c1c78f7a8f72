package org.orderlyferry.office.xls;

import java.io.OutputStream;
import java.util.Arrays;
import java.util.List;
import org.apache.poi.poifs.filesystem.FileMagic;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.office.sheet.SheetFormat;
import org.orderlyferry.office.sheet.SheetInput;
import org.orderlyferry.office.sheet.SheetWriter;
import org.orderlyferry.problem.UsageException;

/** Spreadsheets of the binary format. */
public final class XlsFormat extends SheetFormat {

    private static final int MOST_ROWS = 65_536;
    private static final int MOST_COLUMNS = 256;
    private static final int HEAD = 8;

    public XlsFormat() {
        super(MOST_ROWS);
    }

    @Override
    public String name() {
        return "binary spreadsheet";
    }

    @Override
    public List<String> endings() {
        return List.of("xls");
    }

    /** A compound file, in which a workbook may be. */
    @Override
    public boolean looksLike(byte[] head) {
        return head.length >= HEAD && FileMagic.valueOf(Arrays.copyOf(head, HEAD)) == FileMagic.OLE2;
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "a sheet of definitions in the file, and a CSVW description beside it",
                "null is a cell that isn't there, and empty text is one with an empty text",
                "numbers of up to 15 digits, dates from March 1900 on, times to the millisecond and truth values as such;"
                        + " all else as text, which is never a formula; binary values in base64",
                List.of(
                        "a value of more than 32,767 characters is refused, and so is a table of more than 256 columns",
                        "a table of more than 65,536 rows goes on in another sheet, and all are held in memory until the"
                                + " file is written",
                        "files from before 1997, and those that need a password, aren't read"));
    }

    @Override
    protected SheetInput open(FileSource file) {
        return new XlsInput(file);
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        for (TableDefinition table : tables) {
            if (table.columns().size() > MOST_COLUMNS) {
                throw new UsageException("table " + table.name() + " has "
                        + table.columns().size() + " columns, and a sheet of such a file has " + MOST_COLUMNS);
            }
        }
        return super.write(out, shown, tables, settings);
    }

    @Override
    protected SheetWriter writer(OutputStream out, String shown, int sheetRows) {
        return new SheetWriter(new XlsSink(out, shown), sheetRows, XlsSink.LONGEST);
    }
}
