package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.time.Duration;
import java.util.Objects;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.problem.UsageException;

/**
 * Files that arrive, each of them the source of a crossing's one table.
 *
 * @param folder where they arrive
 * @param pattern of their names, in which {@code *} stands for any characters
 * @param wholeAfter for how long a file must have stood still to be whole
 * @param marker the ending of a file whose presence says that another of the same name is whole; empty for none
 * @param fewestRows a file with fewer records is refused
 * @param mostRows a file with more is refused; 0 for any number
 * @param taken where files go that were taken; null for nowhere
 * @param refused where files go that were refused, each with a report; null for nowhere
 */
@NullMarked
public record Arrivals(
        Path folder,
        String pattern,
        Duration wholeAfter,
        String marker,
        long fewestRows,
        long mostRows,
        Path taken,
        Path refused) {
    public Arrivals {
        Objects.requireNonNull(folder, "folder");
        if (pattern.isEmpty() || pattern.contains("/")) {
            throw new UsageException("the pattern of arriving files is that of a name, such as loan-*.csv");
        }
        if (mostRows > 0 && mostRows < fewestRows) {
            throw new UsageException("most-rows is less than fewest-rows");
        }
    }
}
