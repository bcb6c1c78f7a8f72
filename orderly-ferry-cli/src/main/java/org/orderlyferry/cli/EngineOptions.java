package org.orderlyferry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.stream.Collectors;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.work.RemoteEngine;
import picocli.CommandLine.Option;

/** By what slices are run. */
final class EngineOptions {

    private static final String HERE = "local";

    @Option(
            names = "--engine",
            paramLabel = "local|spark",
            description =
                    "What runs the slices of the export, the load and the proof: this process, or the executors of a Spark cluster,"
                            + " of which SPARK_HOME says where it is installed here. Default: local.")
    private String engine = HERE;

    @Option(
            names = "--master",
            paramLabel = "URL",
            description = "Where the engine is, such as spark://host:7077. Default: what its own settings say.")
    private String master;

    /** The engine that is asked for; empty for this process itself. */
    Optional<RemoteEngine.Provider> asked() {
        if (engine.equals(HERE)) {
            if (master != null) {
                throw new UsageException("--master goes with an engine of a cluster, such as --engine spark");
            }
            return Optional.empty();
        }
        List<RemoteEngine.Provider> all = new ArrayList<>();
        ServiceLoader.load(RemoteEngine.Provider.class).forEach(all::add);
        return Optional.of(all.stream()
                .filter(p -> p.name().equals(engine))
                .findFirst()
                .orElseThrow(() -> new UsageException("there is no engine " + engine + "; there are " + HERE + ", "
                        + all.stream().map(RemoteEngine.Provider::name).collect(Collectors.joining(", ")))));
    }

    Optional<String> master() {
        return Optional.ofNullable(master);
    }
}
