package org.orderlyferry.cli;

import java.nio.file.Path;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.UsageException;
import picocli.CommandLine.Parameters;

/** The file that tells of a crossing. */
final class CrossingFile {

    @Parameters(
            index = "0",
            arity = "0..1",
            paramLabel = "CROSSING",
            description = "The crossing's file. Default: ${DEFAULT-VALUE}.")
    private Path file = Path.of("crossing.yaml");

    /** What a person has written is wrong, rather than a place. */
    Crossing read() {
        try {
            return Crossing.read(file);
        } catch (MalformedFileException e) {
            throw new UsageException(e.getMessage(), e);
        }
    }

    Path path() {
        return file;
    }
}
