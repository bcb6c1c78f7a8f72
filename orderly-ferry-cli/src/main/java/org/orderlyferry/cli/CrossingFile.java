package org.orderlyferry.cli;

import java.nio.file.Path;
import org.orderlyferry.crossing.Crossing;
import picocli.CommandLine.Parameters;

/** The file that tells of a crossing. */
final class CrossingFile {

    @Parameters(
            index = "0",
            arity = "0..1",
            paramLabel = "CROSSING",
            description = "The crossing's file. Default: ${DEFAULT-VALUE}.")
    private Path file = Path.of("crossing.yaml");

    Crossing read() {
        return Crossing.read(file);
    }

    Path path() {
        return file;
    }
}
