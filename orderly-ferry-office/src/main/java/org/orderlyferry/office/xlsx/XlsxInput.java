package org.orderlyferry.office.xlsx;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.dhatim.fastexcel.reader.ExcelReaderException;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Sheet;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** A workbook to be read: a ZIP file, which has to stand on the disk; one that doesn't is copied there for a while. */
final class XlsxInput implements AutoCloseable {

    private final String shown;
    private final Optional<Path> copy;
    private final ReadableWorkbook workbook;
    private final boolean from1904;

    XlsxInput(FileSource file) {
        this.shown = file.shown();
        Path path = null;
        Path copied = null;
        try {
            if (file.onDisk().isPresent()) {
                path = file.onDisk().get();
            } else {
                copied = Files.createTempFile("orderly-ferry-", ".xlsx");
                try (InputStream in = file.open()) {
                    Files.copy(in, copied, StandardCopyOption.REPLACE_EXISTING);
                }
                path = copied;
            }
            WorkbookParts parts = WorkbookParts.look(path.toFile());
            this.from1904 = parts.from1904();
            this.workbook = new ReadableWorkbook(path.toFile(), new ReadingOptions(parts.styled(), true));
            this.copy = Optional.ofNullable(copied);
        } catch (IOException | ExcelReaderException e) {
            delete(copied);
            throw failed(e);
        }
    }

    private void delete(Path path) {
        if (path != null) {
            try {
                Files.deleteIfExists(path);
            } catch (IOException e) {
                throw new PlaceException(path.toString(), "can't be removed: " + e.getMessage(), e);
            }
        }
    }

    boolean isDate1904() {
        return from1904;
    }

    Optional<Sheet> sheet(String name) {
        return workbook.findSheet(name);
    }

    List<String> sheetNames() {
        return workbook.getSheets().map(Sheet::getName).toList();
    }

    /** The tables that a sheet of definitions describes, each with its sheets; empty where there is no such sheet. */
    Map<TableDefinition, List<String>> definitions() {
        for (String name : sheetNames()) {
            if (name.startsWith(DefinitionsSheet.NAME)) {
                try (SheetRows rows = rows(workbook.findSheet(name).orElseThrow())) {
                    Optional<Map<TableDefinition, List<String>>> read = DefinitionsSheet.read(rows.toList());
                    if (read.isPresent()) {
                        return read.get();
                    }
                } catch (IllegalArgumentException e) {
                    throw failed(e);
                }
            }
        }
        return new LinkedHashMap<>();
    }

    SheetRows rows(Sheet sheet) {
        try {
            return new SheetRows(sheet.openStream(), this::failed);
        } catch (IOException | ExcelReaderException e) {
            throw failed(e);
        }
    }

    RuntimeException failed(Exception e) {
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
            copy.ifPresent(this::delete);
        }
    }
}
