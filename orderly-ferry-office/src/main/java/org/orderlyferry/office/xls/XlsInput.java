package org.orderlyferry.office.xls;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.apache.poi.EncryptedDocumentException;
import org.apache.poi.hssf.record.EOFRecord;
import org.apache.poi.hssf.record.FilePassRecord;
import org.apache.poi.hssf.record.RecordFactoryInputStream;
import org.apache.poi.poifs.filesystem.FileMagic;
import org.apache.poi.poifs.filesystem.POIFSFileSystem;
import org.apache.poi.util.LittleEndianInputStream;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.OnDisk;
import org.orderlyferry.io.Closing;
import org.orderlyferry.model.FreeNames;
import org.orderlyferry.office.sheet.SheetInput;
import org.orderlyferry.office.sheet.SheetMarks;
import org.orderlyferry.office.sheet.SheetRows;
import org.orderlyferry.office.sheet.UnpackedPart;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** A binary workbook to be read: a compound file with a stream of records in it. */
final class XlsInput implements SheetInput {

    private static final String STREAM = "Workbook";
    private static final String OLDER_STREAM = "Book";
    private static final String TOO_OLD =
            "it is of a version from before 1997; a spreadsheet program can save it as a newer one";
    private static final String LOCKED = "it needs a password; a spreadsheet program can save it without one";

    /** What is encrypted says so among its first records. */
    private static final int FIRST_RECORDS = 50;

    private final String shown;
    private final OnDisk file;
    private final POIFSFileSystem parts;
    private final WorkbookRecords workbook;
    private final List<String> names = new ArrayList<>();
    private final @Nullable UnpackedPart unpacked;
    /** Which sheets' rows stand in their order, as far as it was looked for. */
    private final Map<Integer, Boolean> inOrder = new ConcurrentHashMap<>();

    XlsInput(FileSource source) {
        this.shown = source.shown();
        try {
            this.file = new OnDisk(source);
        } catch (IOException e) {
            throw failed(e);
        }
        POIFSFileSystem opened = null;
        try {
            opened = read(() -> {
                mustBeCompound(file.path());
                return new POIFSFileSystem(file.path().toFile(), true);
            });
            this.parts = opened;
            try (InputStream in = stream()) {
                read(() -> {
                    mustBeOpen(in);
                    return null;
                });
            }
            try (InputStream in = stream()) {
                this.workbook = read(() -> new WorkbookRecords(new RecordFactoryInputStream(in, true)));
            }
        } catch (IOException | RuntimeException e) {
            Closing.after(e, opened, file);
            throw e instanceof RuntimeException runtime ? runtime : failed(e);
        }
        FreeNames free = new FreeNames();
        for (String name : workbook.names()) {
            String other = "sheet " + (names.size() + 1);
            names.add(free.give(name, number -> number == 2 ? other : other + " " + number));
        }
        this.unpacked = names.size() < UnpackedPart.MANY ? null : unpacked();
    }

    /** Many a program gives a list of its own the name of a spreadsheet. */
    private static void mustBeCompound(Path path) throws IOException {
        switch (FileMagic.valueOf(path.toFile())) {
            case OLE2 -> {
                // as it should be
            }
            case BIFF2, BIFF3, BIFF4 -> throw new IOException(TOO_OLD);
            default ->
                throw new IOException(
                        "it has such a name, and is none; if it is delimited text, --format csv reads it");
        }
    }

    private InputStream stream() {
        return read(() -> {
            if (parts.getRoot().hasEntryCaseInsensitive(STREAM)) {
                return parts.createDocumentInputStream(
                        parts.getRoot().getEntryCaseInsensitive(STREAM).getName());
            }
            throw new IOException(
                    parts.getRoot().hasEntryCaseInsensitive(OLDER_STREAM)
                            ? TOO_OLD
                            : parts.getRoot().hasEntryCaseInsensitive("EncryptedPackage")
                                    ? LOCKED
                                    : "it is a compound file without a workbook in it");
        });
    }

    /**
     * Looks whether the first part says that all behind it is encrypted, be it with the password that programs try by themselves:
     * from the middle on nobody would see that it is ([MS-XLS] 2.4.117).
     */
    private static void mustBeOpen(InputStream in) throws IOException {
        LittleEndianInputStream records = new LittleEndianInputStream(in);
        for (int i = 0; i < FIRST_RECORDS; i++) {
            int kind = records.readUShort();
            int length = records.readUShort();
            if (kind == FilePassRecord.sid) {
                throw new IOException(LOCKED);
            } else if (kind == EOFRecord.sid) {
                return;
            }
            records.skipNBytes(length);
        }
    }

    /** A step of reading that the library fails in as it likes. */
    @FunctionalInterface
    interface Step<T> {
        T run() throws IOException;
    }

    /** Does one. */
    <T> T read(Step<T> step) {
        try {
            return step.run();
        } catch (EncryptedDocumentException e) {
            throw failed(new IOException(LOCKED, e));
        } catch (FerryException e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw failed(e);
        }
    }

    @Override
    public List<String> sheetNames() {
        return names;
    }

    @Override
    public boolean isHidden(String sheet) {
        return workbook.isHidden(names.indexOf(sheet));
    }

    @Override
    public SheetRows rows(String sheet, SheetMarks marks) {
        int at = names.indexOf(sheet);
        InputStream in = sheet(at);
        try {
            return read(() -> {
                XlsRows rows = new XlsRows(this, workbook, in, marks);
                return isInOrder(at) ? rows : RowOrder.sorted(rows);
            });
        } catch (RuntimeException e) {
            close(in);
            throw e;
        }
    }

    private UnpackedPart unpacked() {
        try (InputStream in = stream()) {
            return read(() -> UnpackedPart.of(in::transferTo));
        } catch (IOException | RuntimeException e) {
            Closing.after(e, parts, file);
            throw e instanceof RuntimeException runtime ? runtime : failed(e);
        }
    }

    private InputStream sheet(int at) {
        if (unpacked != null) {
            return read(() -> unpacked.from(workbook.position(at)));
        }
        InputStream in = stream();
        try {
            return read(() -> {
                in.skipNBytes(workbook.position(at));
                return in;
            });
        } catch (RuntimeException e) {
            close(in);
            throw e;
        }
    }

    private boolean isInOrder(int at) {
        return inOrder.computeIfAbsent(at, i -> {
            try (InputStream in = sheet(i)) {
                return read(() -> RowOrder.isKept(in));
            } catch (IOException e) {
                throw failed(e);
            }
        });
    }

    @Override
    public RuntimeException failed(Exception e) {
        String what = e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        return new MalformedFileException(new Origin("", shown, 0, true), "can't be read as a spreadsheet: " + what);
    }

    static void close(@Nullable AutoCloseable one) {
        try {
            if (one != null) {
                one.close();
            }
        } catch (RuntimeException e) {
            throw e;
        } catch (Exception e) {
            throw new PlaceException("", "can't be closed: " + e.getMessage(), e);
        }
    }

    @Override
    public void close() {
        try {
            close(unpacked);
            close(parts);
        } finally {
            file.close();
        }
    }
}
