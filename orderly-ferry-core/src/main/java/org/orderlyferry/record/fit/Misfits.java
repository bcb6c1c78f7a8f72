package org.orderlyferry.record.fit;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.apiguardian.api.API;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BadValueException;

/** Gathers the values that a target would refuse, for a load that is only tried. Safe for use by several threads. */
@API(status = API.Status.INTERNAL)
public final class Misfits {

    /** So many kinds are told apart; a reason may have the value in it. */
    private static final int MOST = 1000;

    private record Kind(TableName table, String column, String reason) {}

    private record Seen(long count, BadValueException first) {}

    private final Map<Kind, Seen> seen = new LinkedHashMap<>();

    /** Who is to be told of a table's values. */
    public Consumer<BadValueException> of(TableName table) {
        return e -> add(table, e);
    }

    /** Several lanes may find some at once; the first is that of the lowest line, whichever lane was faster. */
    private synchronized void add(TableName table, BadValueException e) {
        String reason = seen.size() < MOST ? e.reason() : "";
        seen.merge(
                new Kind(table, e.column(), reason),
                new Seen(1, e),
                (a, b) -> new Seen(
                        a.count() + 1,
                        b.first().origin().line() < a.first().origin().line() ? b.first() : a.first()));
    }

    /** Whether every value would be taken. */
    public synchronized boolean isEmpty() {
        return seen.isEmpty();
    }

    /** One finding for each column and reason, with the first value as an example. */
    public synchronized List<Finding> findings() {
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
