package org.orderlyferry.place;

import java.nio.file.Path;
import java.util.Optional;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.Proposing;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.record.Rejects;

/**
 * How to open places.
 *
 * @param secrets where passwords come from
 * @param format the format of a file, where neither its bytes nor its name are to tell
 * @param files what is told about the form of a file, where no definitions say so
 * @param definitions a CSVW description to read a file by
 * @param rejects hears of records of files that can't be taken
 * @param outOfRange what is done with values that no other system could hold
 * @param makeMissing whether a target's database, or its schemas, are made where they aren't there
 * @param trustDefinitions whether texts of definitions that can't be read, such as a check in the target's own SQL, are
 *     sent to a target as they are; only where a person says that whoever wrote them may run anything there
 * @param proposing what a person has decided about definitions of files that have none
 */
public record OpenOptions(
        Secrets secrets,
        Optional<String> format,
        FileSettings files,
        Optional<Path> definitions,
        Rejects rejects,
        OutOfRange outOfRange,
        boolean makeMissing,
        boolean trustDefinitions,
        Proposing proposing) {

    public static final OpenOptions DEFAULT = new OpenOptions(
            Secrets.unattended(),
            Optional.empty(),
            FileSettings.NONE,
            Optional.empty(),
            Rejects.STOP,
            OutOfRange.REFUSE,
            false,
            false,
            Proposing.DEFAULT);

    public OpenOptions withSecrets(Secrets other) {
        return new OpenOptions(
                other, format, files, definitions, rejects, outOfRange, makeMissing, trustDefinitions, proposing);
    }

    public OpenOptions withFormat(String other) {
        return new OpenOptions(
                secrets,
                Optional.of(other),
                files,
                definitions,
                rejects,
                outOfRange,
                makeMissing,
                trustDefinitions,
                proposing);
    }

    public OpenOptions withFiles(FileSettings other) {
        return new OpenOptions(
                secrets, format, other, definitions, rejects, outOfRange, makeMissing, trustDefinitions, proposing);
    }

    /** A delimited file in this dialect. */
    public OpenOptions withDialect(CsvDialect other) {
        return withFiles(other.settings());
    }

    public OpenOptions withDefinitions(Path other) {
        return new OpenOptions(
                secrets,
                format,
                files,
                Optional.of(other),
                rejects,
                outOfRange,
                makeMissing,
                trustDefinitions,
                proposing);
    }

    public OpenOptions withRejects(Rejects other) {
        return new OpenOptions(
                secrets, format, files, definitions, other, outOfRange, makeMissing, trustDefinitions, proposing);
    }

    public OpenOptions withOutOfRange(OutOfRange other) {
        return new OpenOptions(
                secrets, format, files, definitions, rejects, other, makeMissing, trustDefinitions, proposing);
    }

    public OpenOptions withMakeMissing(boolean other) {
        return new OpenOptions(
                secrets, format, files, definitions, rejects, outOfRange, other, trustDefinitions, proposing);
    }

    public OpenOptions withTrustDefinitions(boolean other) {
        return new OpenOptions(secrets, format, files, definitions, rejects, outOfRange, makeMissing, other, proposing);
    }

    public OpenOptions withProposing(Proposing other) {
        return new OpenOptions(
                secrets, format, files, definitions, rejects, outOfRange, makeMissing, trustDefinitions, other);
    }
}
