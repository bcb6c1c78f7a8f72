package org.orderlyferry.reconcile;

import java.security.SecureRandom;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.LongFunction;
import org.orderlyferry.model.Finding;
import org.orderlyferry.place.OwnDigests;
import org.orderlyferry.place.Place;

/**
 * Compares tables by digests that the servers of both sides take themselves, so that no record has to come. It says of which
 * tables all is equal; nothing is said of others, whose values are to be read.
 */
final class ServerComparison {

    private final Place source;
    private final Place target;
    private final Function<TablePair, ColumnPairs> columns;

    ServerComparison(Place source, Place target, Function<TablePair, ColumnPairs> columns) {
        this.source = source;
        this.target = target;
        this.columns = columns;
    }

    /**
     * Compares those tables whose digests both sides take alike.
     *
     * @param reading how both sides are gone through, by the seed of digests
     * @return the tables that are equal
     */
    Map<TablePair, ComparedTable> equal(
            List<TablePair> pairs, List<Finding> findings, LongFunction<DigestComparison> reading) {
        List<TablePair> alike = alike(pairs);
        if (alike.isEmpty()) {
            return Map.of();
        }
        long seed = new SecureRandom().nextLong();
        Map<TablePair, ComparedTable> equal = new LinkedHashMap<>();
        reading.apply(seed).compare(alike, findings, Optional.empty()).forEach((pair, table) -> {
            if (table.verdict() == Verdict.EQUAL) {
                equal.put(pair, table.byServers(seed));
            }
        });
        return equal;
    }

    private List<TablePair> alike(List<TablePair> pairs) {
        Optional<OwnDigests> at = source.ownDigests();
        Optional<OwnDigests> to = at.isEmpty() ? at : target.ownDigests();
        return to.isEmpty()
                ? List.of()
                : pairs.stream()
                        .filter(p -> p.source() != null && p.target() != null)
                        .filter(p -> isAlike(p, at.orElseThrow(), to.get()))
                        .toList();
    }

    private boolean isAlike(TablePair pair, OwnDigests at, OwnDigests to) {
        ColumnPairs paired = columns.apply(pair);
        // a column that only one side has makes them different, whatever the others hold
        if (!paired.areComplete()) {
            return false;
        }
        Optional<String> form = at.form(pair.source(), paired.sourceNames());
        return form.isPresent() && form.equals(to.form(pair.target(), paired.targetNames()));
    }
}
