package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * A table of the source and the one of the target that is compared with it; one of them may be null, for missing.
 *
 * @param source the source's table
 * @param named the source's table under the names that a load gives it at the target
 * @param target the target's table
 */
record TablePair(TableName source, TableDefinition named, TableName target) {

    /**
     * Pairs tables by the names that a load gives them; else as written, then without the schema, then in any case; else,
     * where each side has just one, whatever they are called. Each table has one partner.
     *
     * @param named the sources under the target's names, in the same order
     * @param withExtra whether tables that only the target has count too
     */
    static List<TablePair> of(
            List<TableName> sources, List<TableDefinition> named, List<TableName> targets, boolean withExtra) {
        List<TableName> left = new ArrayList<>(targets);
        List<TablePair> pairs = new ArrayList<>();
        for (int i = 0; i < sources.size(); i++) {
            TableName source = sources.get(i);
            TableName mapped = named.get(i).name();
            TableName partner = left.contains(mapped) ? mapped : partner(source, left);
            if (partner == null && sources.size() == 1 && targets.size() == 1) {
                // two files, or a file and a set of one table: what else could be meant
                partner = targets.get(0);
            }
            left.remove(partner);
            pairs.add(new TablePair(source, named.get(i), partner));
        }
        if (withExtra) {
            left.forEach(extra -> pairs.add(new TablePair(null, null, extra)));
        }
        return pairs;
    }

    private static TableName partner(TableName source, List<TableName> targets) {
        if (targets.contains(source)) {
            return source;
        }
        List<TableName> sameName =
                targets.stream().filter(t -> t.name().equals(source.name())).toList();
        if (sameName.size() == 1) {
            return sameName.get(0);
        }
        List<TableName> anyCase = targets.stream()
                .filter(t -> t.name().equalsIgnoreCase(source.name()))
                .toList();
        return sameName.isEmpty() && anyCase.size() == 1 ? anyCase.get(0) : null;
    }

    /** Whether both are there, and are called otherwise even in any case and without their schemas. */
    boolean isUnlike() {
        return source != null
                && target != null
                && !named.name().equals(target)
                && !source.name().equalsIgnoreCase(target.name());
    }

    TableName shown() {
        return source == null ? target : source;
    }
}
