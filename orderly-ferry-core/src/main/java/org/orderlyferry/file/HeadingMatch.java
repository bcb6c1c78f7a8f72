package org.orderlyferry.file;

import java.util.HashSet;
import java.util.List;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.MalformedFileException;

/**
 * Finds out how a file's headings go with its description. CSVW says that columns stand in the order of the description,
 * under any of their titles; where the headings are just the columns' names, they may stand in another order.
 */
final class HeadingMatch {

    private HeadingMatch() {}

    /** The settings, and that columns go by their order if the headings are other titles of theirs. */
    static FileSettings of(FileSource file, FileFormat format, FileSettings settings, Description description) {
        if (description.tables().size() != 1 || settings.text("columnOrder").isPresent()) {
            return settings;
        }
        TableDefinition table = description.tables().get(0);
        List<List<String>> titles = description.headings(table.name());
        List<List<String>> headings;
        try {
            headings = format.headings(file, settings);
        } catch (MalformedFileException e) {
            // told when the file is looked at, or read
            return settings;
        }
        boolean sameNames = new HashSet<>(table.columnNames())
                .equals(new HashSet<>(headings.stream().map(h -> h.get(0)).toList()));
        if (headings.size() != titles.size() || sameNames && headings.get(0).size() == 1) {
            return settings;
        }
        for (int i = 0; i < headings.size(); i++) {
            if (headings.get(i).stream().noneMatch(titles.get(i)::contains)) {
                return settings;
            }
        }
        return settings.with("columnOrder", "description");
    }
}
