package org.orderlyferry.file;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.ForwardingReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Tells where in a file the record stands that is too large for this process's memory, and that the file was changed. */
final class LargeRecords extends ForwardingReader {

    private final FileSource file;
    private final String shown;
    private long line;

    LargeRecords(RecordReader reader, FileSource file) {
        super(reader);
        this.file = file;
        this.shown = file.shown();
    }

    /** What is to be said when a file's part is too large. */
    static MalformedFileException tooLarge(Origin before) {
        return new MalformedFileException(
                before,
                (before.line() == 0
                                ? "holds a value"
                                : "a record that begins here or in the lines behind holds a value")
                        + " that takes more memory than this process has ("
                        + Runtime.getRuntime().maxMemory() / 1024 / 1024
                        + " MB; -Xmx gives it more)");
    }

    /** A file whose bytes a parser can't cope with: whatever it failed with, it is the file that is broken. */
    static MalformedFileException broken(String table, String shown, long behind, Throwable e) {
        String what = e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        MalformedFileException broken = new MalformedFileException(
                new Origin(table, shown, behind, true),
                (behind > 0 ? "behind this line, it" : "it") + " can't be read: " + what);
        broken.addSuppressed(e);
        return broken;
    }

    @Override
    public boolean read(RecordBatch batch) {
        try {
            boolean any = super.read(batch);
            line = any ? batch.origin(batch.rows() - 1).line() : line;
            return any;
        } catch (OutOfMemoryError e) {
            line = batch.rows() > 0 ? batch.origin(batch.rows() - 1).line() : line;
            throw tooLarge(new Origin(table().name().toString(), shown, Math.max(1, line), true));
        } catch (FerryException e) {
            throw e;
        } catch (RuntimeException | StackOverflowError e) {
            throw broken(table().name().toString(), shown, line, e);
        }
    }

    @Override
    public List<Finding> findings() {
        if (!file.isChanged()) {
            return super.findings();
        }
        List<Finding> all = new ArrayList<>(super.findings());
        all.add(
                Finding.of(
                        FindingCode.FILE_CHANGED,
                        table().name(),
                        shown
                                + " was changed while it was read: its records may be those of before, of after, or some of each"));
        return all;
    }
}
