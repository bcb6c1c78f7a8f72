package org.orderlyferry.office.sheet;

import java.util.List;
import org.orderlyferry.format.OpenedFiles;

/** A file of sheets to be read. */
public interface SheetInput extends OpenedFiles.Opened {

    /** The sheets' names, in their order. */
    List<String> sheetNames();

    /** Whether people who open the file don't see a sheet. */
    boolean isHidden(String sheet);

    /**
     * A sheet's rows from the first on; several sheets may be read at once.
     *
     * @throws org.orderlyferry.problem.MalformedFileException if they can't be read
     */
    default SheetRows rows(String sheet) {
        return rows(sheet, SheetMarks.UNHEARD);
    }

    /**
     * The same.
     *
     * @param marks hears of how they are shown to people, by the time that they have been read to their end
     */
    SheetRows rows(String sheet, SheetMarks marks);

    /** What is wrong with the file, for people. */
    RuntimeException failed(Exception e);
}
