package org.orderlyferry.place;

import java.nio.file.Path;
import java.util.Optional;
import org.orderlyferry.format.csv.CsvDialect;

/**
 * How to open places.
 *
 * @param secrets where passwords come from
 * @param dialect how a single delimited file is written, where no definitions say so
 * @param definitions a CSVW description to read a single delimited file by
 * @param outOfRange what is done with values that no other system could hold
 * @param makeMissing whether a target's database, or its schemas, are made where they aren't there
 */
public record OpenOptions(
        Secrets secrets, CsvDialect dialect, Optional<Path> definitions, OutOfRange outOfRange, boolean makeMissing) {

    public static final OpenOptions DEFAULT =
            new OpenOptions(Secrets.unattended(), CsvDialect.RFC_4180, Optional.empty(), OutOfRange.REFUSE, false);

    public OpenOptions withSecrets(Secrets other) {
        return new OpenOptions(other, dialect, definitions, outOfRange, makeMissing);
    }

    public OpenOptions withDialect(CsvDialect other) {
        return new OpenOptions(secrets, other, definitions, outOfRange, makeMissing);
    }

    public OpenOptions withDefinitions(Path other) {
        return new OpenOptions(secrets, dialect, Optional.of(other), outOfRange, makeMissing);
    }

    public OpenOptions withOutOfRange(OutOfRange other) {
        return new OpenOptions(secrets, dialect, definitions, other, makeMissing);
    }

    public OpenOptions withMakeMissing(boolean other) {
        return new OpenOptions(secrets, dialect, definitions, outOfRange, other);
    }
}
