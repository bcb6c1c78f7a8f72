package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.record.RecordWriter;

/** Writes a part of a table to files of its own. */
public interface PartWriter extends RecordWriter {

    /** The files that it has made, that with the records first; complete once it is finished. */
    List<PartFile> files();
}
