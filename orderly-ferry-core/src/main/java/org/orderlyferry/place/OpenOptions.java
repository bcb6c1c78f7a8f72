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
 */
public record OpenOptions(Secrets secrets, CsvDialect dialect, Optional<Path> definitions) {

    public static final OpenOptions DEFAULT =
            new OpenOptions(Secrets.unattended(), CsvDialect.RFC_4180, Optional.empty());

    public OpenOptions withSecrets(Secrets other) {
        return new OpenOptions(other, dialect, definitions);
    }

    public OpenOptions withDialect(CsvDialect other) {
        return new OpenOptions(secrets, other, definitions);
    }

    public OpenOptions withDefinitions(Path other) {
        return new OpenOptions(secrets, dialect, Optional.of(other));
    }
}
