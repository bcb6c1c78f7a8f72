package org.orderlyferry.databases.loading;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BadValueException;

/** Gathers the values that a target would refuse, for a load that is only tried. */
final class Misfits {

    private record Kind(TableName table, String column, String reason) {}

    private record Seen(long count, BadValueException first) {}

    private final Map<Kind, Seen> seen = new LinkedHashMap<>();

    /** Who is to be told of a table's values. */
    Consumer<BadValueException> of(TableName table) {
        return e -> add(table, e);
    }

    /** Several lanes may find some at once; the first is that of the lowest line, whichever lane was faster. */
    private synchronized void add(TableName table, BadValueException e) {
        seen.merge(
                new Kind(table, e.column(), e.reason()),
                new Seen(1, e),
                (a, b) -> new Seen(
                        a.count() + 1,
                        b.first().origin().line() < a.first().origin().line() ? b.first() : a.first()));
    }

    synchronized boolean isEmpty() {
        return seen.isEmpty();
    }

    /** One finding for each column and reason, with the first value as an example. */
    synchronized List<Finding> findings() {
        List<Finding> findings = new ArrayList<>();
        seen.forEach((kind, of) -> findings.add(new Finding(
                FindingCode.VALUE_REFUSED,
                kind.table(),
                kind.column(),
                of.count() + (of.count() == 1 ? " value" : " values") + " would be refused; the first: "
                        + of.first().getMessage())));
        return findings;
    }
}
