package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Expectation;
import org.orderlyferry.place.Place;

/** Compares the definitions of all tables that both sides have, and ticks off what no load carries. */
final class DefinitionsOfPairs {

    /** What one system calls a function is another one's procedure. */
    private static final Set<String> ROUTINES = Set.of("function", "procedure", "routine", "alias", "aggregate");

    private final Place source;
    private final Place target;

    DefinitionsOfPairs(Place source, Place target) {
        this.source = source;
        this.target = target;
    }

    /**
     * Compares them.
     *
     * @param findings takes which tables have none
     */
    ComparedDefinitions compare(List<TablePair> all, List<Finding> findings) {
        List<TablePair> pairs = all.stream()
                .filter(p -> p.source() != null && p.target() != null)
                .filter(p -> isKept(source, p.source(), findings) && isKept(target, p.target(), findings))
                .toList();
        List<TableDefinition> originals =
                pairs.stream().map(p -> source.define(p.source())).toList();
        Optional<Expectation> expectation = target.expected(originals);
        Map<TableName, TableDefinition> made =
                expectation.map(Expectation::made).orElse(Map.of());
        List<DefinitionDifference> differences = new ArrayList<>();
        for (int i = 0; i < pairs.size(); i++) {
            TablePair pair = pairs.get(i);
            TableDefinition there = target.define(pair.target());
            TableDefinition plain = expectation.map(e -> e.plain().apply(there)).orElse(there);
            differences.addAll(new DefinitionComparison(
                            originals.get(i),
                            pair.named(),
                            plain,
                            made.getOrDefault(pair.source(), pair.named()),
                            expectation.map(Expectation::typeName).orElse(LogicalType::toString))
                    .differences());
        }
        List<LeftBehind> left = new ArrayList<>(
                source.leftBehind(pairs.stream().map(TablePair::source).toList()));
        expectation.map(Expectation::leftBehind).orElse(List.of()).stream()
                .filter(l -> !left.contains(l))
                .forEach(left::add);
        return new ComparedDefinitions(
                pairs.stream().map(TablePair::source).toList(),
                differences,
                // what a set has left behind is what it hasn't
                ticked(left, expectation.isPresent() ? target.leftBehind() : List.of()));
    }

    private static boolean isKept(Place place, TableName table, List<Finding> findings) {
        if (!place.keepsDefinition(table)) {
            findings.add(Finding.of(
                    FindingCode.DEFINITION_PROPOSED,
                    table,
                    "has no definitions in " + place.address() + ", so there are none to compare"));
        }
        return place.keepsDefinition(table);
    }

    private static List<TickedThing> ticked(List<LeftBehind> left, List<LeftBehind> there) {
        return left.stream()
                .filter(l -> there.stream().noneMatch(t -> isCarried(l, t)))
                .map(l -> new TickedThing(l, there.stream().anyMatch(t -> isSame(l, t))))
                .toList();
    }

    /** A type of the system's own that a load makes in another database of the system: nobody has to. */
    private static boolean isCarried(LeftBehind one, LeftBehind other) {
        return one.kind().equals("type") && one.reason().equals(other.reason()) && isSame(one, other);
    }

    private static boolean isSame(LeftBehind one, LeftBehind other) {
        return kind(one).equals(kind(other)) && bare(one.name()).equals(bare(other.name()));
    }

    private static String kind(LeftBehind thing) {
        String kind = thing.kind().toLowerCase(Locale.ROOT);
        return ROUTINES.contains(kind) ? "routine" : kind;
    }

    /** Without the schema or the table in front, in any case. */
    private static String bare(String name) {
        return name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    }
}
