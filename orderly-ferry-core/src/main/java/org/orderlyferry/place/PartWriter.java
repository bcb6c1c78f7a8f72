package org.orderlyferry.place;

import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.record.RecordWriter;

/** Writes a part of a table to files of its own. */
@API(status = API.Status.INTERNAL)
public interface PartWriter extends RecordWriter {

    /** The files that it has made, that with the records first; complete once it is finished. */
    List<PartFile> files();
}
