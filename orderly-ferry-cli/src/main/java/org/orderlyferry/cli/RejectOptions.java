package org.orderlyferry.cli;

import java.nio.file.Path;
import java.util.Optional;
import org.orderlyferry.work.RejectFile;
import picocli.CommandLine.Option;

/** What is done with records that can't be taken. */
final class RejectOptions {

    @Option(
            names = "--rejects",
            paramLabel = "FILE",
            description = "Go on without records that can't be taken (for a load, also because they break a key, a"
                    + " reference or a check), and keep them in this CSV file, each with line and reason. Default: stop"
                    + " at the first.")
    private Path file;

    @Option(
            names = "--rejects-allowed",
            paramLabel = "N",
            description = "With more rejects than this, the exit code is 1. Default: ${DEFAULT-VALUE}.")
    private long limit;

    Optional<RejectFile> open() {
        return Optional.ofNullable(file).map(RejectFile::new);
    }

    Path file() {
        return file;
    }

    /** The exit code for so many rejects. */
    int code(long rejected) {
        return rejected > limit ? ExitCode.DIFFERENCES : ExitCode.DONE;
    }
}
