package org.orderlyferry.report;

import java.util.List;
import org.jspecify.annotations.NullMarked;

/**
 * The export set that the work went by.
 *
 * @param folder where it is
 * @param files its data files; the first {@value #MOST} of them
 * @param furtherFiles how many more there are
 */
@NullMarked
public record RecordedSet(String folder, List<SetFile> files, long furtherFiles) {

    /** How many files are listed; all are in the set's own manifest. */
    public static final int MOST = 2_500;

    public RecordedSet {
        folder = Bounded.text(folder);
        files = Bounded.list(files);
    }
}
