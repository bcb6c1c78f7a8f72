package org.orderlyferry.format;

import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.apiguardian.api.API;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/** Matches a file's columns with those of its definition: by name, never by position. */
@API(status = API.Status.INTERNAL)
public final class ColumnMatch {

    private ColumnMatch() {}

    /**
     * Sees to it that a file has exactly the columns of its definition, in whatever order.
     *
     * @throws MalformedFileException if a column is missing on either side, or the file names one twice
     */
    public static void check(List<String> fileColumns, List<String> definedColumns, Origin header) {
        Set<String> unknown = new LinkedHashSet<>();
        for (String name : fileColumns) {
            if (!unknown.add(name)) {
                throw new MalformedFileException(header, "the column " + name + " is named twice");
            }
        }
        Set<String> missing = new LinkedHashSet<>(definedColumns);
        missing.removeAll(unknown);
        unknown.removeAll(new HashSet<>(definedColumns));
        if (!missing.isEmpty() || !unknown.isEmpty()) {
            StringBuilder text = new StringBuilder("the file's columns aren't those of its definition;");
            if (!missing.isEmpty()) {
                text.append(" missing in the file: ").append(Listed.of(missing));
            }
            if (!unknown.isEmpty()) {
                text.append(missing.isEmpty() ? "" : ";")
                        .append(" not in the definition: ")
                        .append(Listed.of(unknown));
            }
            throw new MalformedFileException(
                    header, text.append("; nothing was written").toString());
        }
    }
}
