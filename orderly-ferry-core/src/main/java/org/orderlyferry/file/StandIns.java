package org.orderlyferry.file;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.FileSettings;

/** Encodings that a file is looked at in when it can't be in the one that it was taken to be in. */
final class StandIns {

    /** The usual one of one byte a character, and one that gives every byte a meaning. */
    private static final List<String> ENCODINGS = List.of("windows-1252", "ISO-8859-1");

    private StandIns() {}

    /** The encoding to try after that of the settings; empty behind the last. */
    static Optional<String> next(FileSettings settings) {
        int tried = settings.text("encoding").map(ENCODINGS::indexOf).orElse(-1);
        return ENCODINGS.stream().skip(tried + 1L).findFirst();
    }
}
