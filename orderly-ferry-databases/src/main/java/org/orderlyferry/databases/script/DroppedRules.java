package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.List;
import java.util.function.BiPredicate;
import java.util.function.Function;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;

/**
 * Takes keys, references, checks and indexes away that a script drops by their names. One that was made without a name has the one
 * that PostgreSQL or MariaDB gives it.
 */
final class DroppedRules {

    private final BiPredicate<String, String> areOne;

    /**
     * For a system.
     *
     * @param areOne whether two names mean the same to it
     */
    DroppedRules(BiPredicate<String, String> areOne) {
        this.areOne = areOne;
    }

    /** Takes a table's primary key away; false if it has none. */
    static boolean primaryKey(TableDefinition.Builder table) {
        boolean there = table.build().primaryKey().isPresent();
        table.primaryKey((Key) null);
        return there;
    }

    /** Takes the rule or index of a name away; false if the table has none. */
    boolean named(TableDefinition.Builder table, String name) {
        TableDefinition made = table.build();
        String prefix = made.name().name() + "_";
        if (made.primaryKey()
                .filter(k -> areOne.test(name, k.name().isEmpty() ? prefix + "pkey" : k.name()))
                .isPresent()) {
            return primaryKey(table);
        }
        Function<Key, String> ofKey =
                k -> k.name().isEmpty() ? prefix + String.join("_", k.columns()) + "_key" : k.name();
        List<Key> keys = without(made.uniqueKeys(), ofKey, name);
        List<ForeignKey> references = without(made.foreignKeys(), k -> ofReference(made, k, name), name);
        List<CheckConstraint> checks = without(made.checks(), CheckConstraint::name, name);
        List<IndexDefinition> indexes = without(made.indexes(), IndexDefinition::name, name);
        table.uniqueKeys(keys).foreignKeys(references).checks(checks).indexes(indexes);
        return keys.size() < made.uniqueKeys().size()
                || references.size() < made.foreignKeys().size()
                || checks.size() < made.checks().size()
                || indexes.size() < made.indexes().size();
    }

    private String ofReference(TableDefinition made, ForeignKey key, String name) {
        if (!key.name().isEmpty()) {
            return key.name();
        }
        String prefix = made.name().name() + "_";
        String numbered = prefix + "ibfk_" + (made.foreignKeys().indexOf(key) + 1);
        return areOne.test(name, numbered) ? numbered : prefix + String.join("_", key.columns()) + "_fkey";
    }

    private <T> List<T> without(List<T> all, Function<T, String> called, String name) {
        List<T> kept = new ArrayList<>(all);
        kept.removeIf(one -> areOne.test(name, called.apply(one)));
        return kept;
    }
}
