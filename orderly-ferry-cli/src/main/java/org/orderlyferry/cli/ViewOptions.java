package org.orderlyferry.cli;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.view.DocumentViews;
import org.orderlyferry.view.ProposedViews;
import picocli.CommandLine.Option;

/** Which views show what stands in documents. */
final class ViewOptions {

    private static final String ALL = "all";

    @Option(
            names = "--views",
            paramLabel = "all|PATH",
            description =
                    "For each table with documents in a column of JSON make a view, TABLE_fields, that shows what"
                            + " stands at paths in them (place.hall) as columns of their own types; may be given several times.")
    private List<String> paths = List.of();

    /** The paths that are asked for, where views are; none of them for all. */
    Optional<List<String>> paths() {
        return paths.isEmpty() ? Optional.empty() : Optional.of(paths.contains(ALL) ? List.of() : paths);
    }

    /**
     * What is asked for, found by reading the source.
     *
     * @param tables the tables' names or patterns; all where there are none
     */
    Optional<ProposedViews> propose(Place source, List<String> tables, TargetPlace target, StopSignal stop) {
        return paths().map(wanted -> DocumentViews.over(source)
                .tables(tables.toArray(String[]::new))
                .paths(wanted)
                .stopSignal(stop)
                .propose(target));
    }
}
