package org.orderlyferry.office.sheet;

import java.util.List;
import java.util.function.Function;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.OpenedFiles;

/** A file of sheets that goes back to where it was taken from when it is closed, for the next table. */
final class LentInput implements SheetInput {

    private final OpenedFiles.Lent<Known> lent;
    private final Known known;

    /** A file with what its sheet of definitions says, which is read once. */
    private static final class Known implements OpenedFiles.Opened {

        private final SheetInput input;
        private DefinitionsSheet definitions;

        Known(SheetInput input) {
            this.input = input;
        }

        @Override
        public void close() {
            input.close();
        }
    }

    private LentInput(OpenedFiles.Lent<Known> lent) {
        this.lent = lent;
        this.known = lent.opened();
    }

    /** One that was opened before and nobody reads, or one that is opened now. */
    static LentInput of(FileSource file, Function<FileSource, SheetInput> opening) {
        return new LentInput(file.opened().take(Known.class, () -> new Known(opening.apply(file))));
    }

    /** What its sheet of definitions says. */
    DefinitionsSheet definitions() {
        if (known.definitions == null) {
            known.definitions = DefinitionsSheet.of(known.input);
        }
        return known.definitions;
    }

    @Override
    public List<String> sheetNames() {
        return known.input.sheetNames();
    }

    @Override
    public boolean isHidden(String sheet) {
        return known.input.isHidden(sheet);
    }

    @Override
    public SheetRows rows(String sheet, SheetMarks marks) {
        return known.input.rows(sheet, marks);
    }

    @Override
    public RuntimeException failed(Exception e) {
        return known.input.failed(e);
    }

    @Override
    public void close() {
        lent.close();
    }
}
