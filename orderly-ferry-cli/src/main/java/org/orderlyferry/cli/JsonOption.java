package org.orderlyferry.cli;

import picocli.CommandLine.Option;

/** Results for machines. */
final class JsonOption {
    @Option(names = "--json", description = "Print the result as JSON.")
    private boolean json;

    boolean isOn() {
        return json;
    }
}
