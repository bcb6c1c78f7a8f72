package org.orderlyferry.reconcile;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.tally.ComparisonForm;

/** Control totals of both sides. */
final class Totals {

    private final TotalsSide source = new TotalsSide();
    private final TotalsSide target = new TotalsSide();

    TotalsSide source() {
        return source;
    }

    TotalsSide target() {
        return target;
    }

    void expect(TableDefinition at, ColumnPairs columns, TableDefinition to) {
        List<TotalKind> kinds = new ArrayList<>();
        for (int i = 0; i < columns.forms().size(); i++) {
            kinds.add(TotalKind.of(
                    at.column(columns.sourceNames().get(i)).orElseThrow().type(),
                    to.column(columns.targetNames().get(i)).orElseThrow().type()));
        }
        source.expect(at.name(), kinds);
        target.expect(to.name(), kinds);
    }

    List<ComparedTotals> of(TableName at, ColumnPairs columns, TableName to) {
        List<ColumnTotal> one = source.of(at);
        List<ColumnTotal> other = target.of(to);
        List<ComparedTotals> totals = new ArrayList<>();
        for (int i = 0; i < one.size(); i++) {
            totals.add(new ComparedTotals(
                    columns.sourceNames().get(i),
                    one.get(i),
                    other.get(i),
                    isEqual(columns.forms().get(i), one.get(i), other.get(i)),
                    source.confirmed(at, columns.sourceNames().get(i), one.get(i)),
                    target.confirmed(to, columns.targetNames().get(i), other.get(i))));
        }
        return totals;
    }

    /** Has both places compute them by their own SQL, before anything is read. */
    void askServers(Place from, Place to) {
        source.ask(from);
        target.ask(to);
    }

    /** Where a server says otherwise than what was read. */
    List<Finding> findings() {
        List<Finding> all = new ArrayList<>(source.findings());
        all.addAll(target.findings());
        return all;
    }

    private static boolean isEqual(ComparisonForm form, ColumnTotal one, ColumnTotal other) {
        return one.values() == other.values()
                && one.nulls() == other.nulls()
                && one.length().equals(other.length())
                && one.sum().orElse(BigDecimal.ZERO).compareTo(other.sum().orElse(BigDecimal.ZERO)) == 0
                && isSame(form, one.smallest(), other.smallest())
                && isSame(form, one.largest(), other.largest());
    }

    private static boolean isSame(ComparisonForm form, Optional<String> one, Optional<String> other) {
        return one.isPresent() && other.isPresent()
                ? form.areEqual(
                        one.get().getBytes(StandardCharsets.UTF_8), other.get().getBytes(StandardCharsets.UTF_8))
                : one.equals(other);
    }
}
