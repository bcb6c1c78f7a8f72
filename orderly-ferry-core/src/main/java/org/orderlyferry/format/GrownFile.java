package org.orderlyferry.format;

import java.nio.file.Path;
import org.jspecify.annotations.NullMarked;

/**
 * A file that has grown together with another one, and belongs beside it.
 *
 * @param ending of its name, which is else that of the other
 * @param content where it stands until the writer is closed
 */
@NullMarked
public record GrownFile(String ending, Path content) {}
