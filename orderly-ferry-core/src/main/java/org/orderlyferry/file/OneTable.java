package org.orderlyferry.file;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** Several files of one table, as a place. */
final class OneTable {

    private OneTable() {}

    static FilePlace of(FilePattern pattern, OpenOptions options) {
        try {
            return of(pattern.toString(), pattern.tableName(), pattern.files(), options);
        } catch (IOException e) {
            throw new PlaceException(pattern.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    /**
     * Opens them. Those without a byte hold nothing, not even a header, and are told.
     *
     * @param shown what a person has named
     * @param table what the table is called
     * @param files in the order in which they are read
     */
    static FilePlace of(String shown, String table, List<Path> files, OpenOptions options) throws IOException {
        List<FileSource> parts = new ArrayList<>();
        List<String> empty = new ArrayList<>();
        for (Path path : files) {
            DiskFile file = DiskFile.of(path);
            if (file.bytes() == 0) {
                empty.add(file.shown());
            } else {
                parts.add(file);
            }
        }
        if (parts.isEmpty()) {
            throw new PlaceException(shown, "no file of such a name has anything in it", null);
        }
        JoinedFiles joined = new JoinedFiles(shown, table, parts);
        FileFormat format = options.format().map(FileFormats::named).orElseGet(() -> formatOfAll(joined));
        return new FilePlace(joined, new JoinedFormat(format, joined), options, empty);
    }

    private static FileFormat formatOfAll(JoinedFiles files) {
        FileFormat first = null;
        for (FileSource part : files.parts()) {
            FileFormat format = FileFormats.of(part)
                    .orElseThrow(() -> new UsageException("the format of " + part.shown()
                            + " can't be told from its name or bytes; it can be given"));
            if (first != null && !first.isLike(format)) {
                throw new UsageException(files.parts().get(0).shown() + " is " + first.name() + ", and " + part.shown()
                        + " is " + format.name() + "; the files of one table are of one format");
            }
            first = first == null ? format : first;
        }
        return first;
    }
}
