package org.orderlyferry.cli;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.Proposing;
import picocli.CommandLine.Option;

/** What is decided about the definitions of a file that has none. */
final class ProposalOptions {

    @Option(
            names = "--key",
            split = ",",
            paramLabel = "COLUMN|none",
            description =
                    "The primary key of a file without definitions, or that it has none. Default: a column that looks"
                            + " like one by its name or place, if its values allow it.")
    private List<String> key;

    @Option(
            names = "--tight-types",
            description = "Give columns of a file without definitions no more length and digits than its values need."
                    + " Default: room for the next file's.")
    private boolean tight;

    Proposing proposing() {
        Optional<List<String>> told =
                Optional.ofNullable(key).map(k -> k.equals(List.of("none")) ? List.<String>of() : k);
        return new Proposing(told, tight);
    }
}
