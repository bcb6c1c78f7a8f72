package org.orderlyferry.office.xlsx;

import java.io.IOException;
import java.util.List;
import org.dhatim.fastexcel.reader.ExcelReaderException;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Sheet;
import org.dhatim.fastexcel.reader.SheetVisibility;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.OnDisk;
import org.orderlyferry.io.Closing;
import org.orderlyferry.office.sheet.SheetInput;
import org.orderlyferry.office.sheet.SheetMarks;
import org.orderlyferry.office.sheet.SheetRows;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** A workbook to be read: a ZIP file, which has to stand on the disk; one that doesn't is copied there for a while. */
final class XlsxInput implements SheetInput {

    private final String shown;
    private final OnDisk file;
    private final ReadableWorkbook workbook;
    private final boolean from1904;

    XlsxInput(FileSource source) {
        this.shown = source.shown();
        OnDisk opened = null;
        try {
            opened = new OnDisk(source);
            WorkbookParts parts = WorkbookParts.look(opened.path().toFile());
            this.from1904 = parts.from1904();
            this.workbook = new ReadableWorkbook(opened.path().toFile(), new ReadingOptions(parts.styled(), true));
            this.file = opened;
        } catch (IOException | RuntimeException e) {
            Closing.after(e, opened);
            throw e instanceof RuntimeException other && !(e instanceof ExcelReaderException) ? other : failed(e);
        }
    }

    @Override
    public List<String> sheetNames() {
        return workbook.getSheets().map(Sheet::getName).toList();
    }

    @Override
    public boolean isHidden(String sheet) {
        return workbook.findSheet(sheet)
                .filter(s -> s.getVisibility() != SheetVisibility.VISIBLE)
                .isPresent();
    }

    @Override
    public SheetRows rows(String sheet, SheetMarks marks) {
        try {
            if (marks.isHeard()) {
                DrawnSheet.tell(file.path().toFile(), sheet, marks);
            }
            return new XlsxRows(workbook.findSheet(sheet).orElseThrow().openStream(), from1904, this::failed);
        } catch (IOException | ExcelReaderException e) {
            throw failed(e);
        }
    }

    @Override
    public RuntimeException failed(Exception e) {
        Throwable cause = e instanceof ExcelReaderException && e.getCause() != null ? e.getCause() : e;
        return new MalformedFileException(
                new Origin("", shown, 0, true), "can't be read as a spreadsheet: " + cause.getMessage());
    }

    @Override
    public void close() {
        try {
            workbook.close();
        } catch (IOException e) {
            throw new PlaceException(shown, "can't be closed: " + e.getMessage(), e);
        } finally {
            file.close();
        }
    }
}
