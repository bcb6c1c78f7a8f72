package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.NullMarked;

/**
 * What a draft came to.
 *
 * @param file the crossing's file
 * @param crossing what it says now
 * @param isNew whether it wasn't there before
 * @param news what the source has that an older file didn't tell of, and what it has no more
 */
@NullMarked
public record Drafted(Path file, Crossing crossing, boolean isNew, List<String> news) {
    public Drafted {
        news = List.copyOf(news);
    }
}
