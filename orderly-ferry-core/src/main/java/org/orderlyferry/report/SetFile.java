package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;

/**
 * A file of an export set.
 *
 * @param path within the set
 * @param bytes its size; -1 where it isn't there
 * @param sha256 its checksum by the set's manifest, in hexadecimal
 */
@NullMarked
public record SetFile(String path, long bytes, String sha256) {
    public SetFile {
        path = Bounded.text(path);
        sha256 = Bounded.text(sha256);
    }
}
