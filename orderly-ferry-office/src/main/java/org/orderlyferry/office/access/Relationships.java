package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.ConstraintViolationException;
import com.healthmarketscience.jackcess.Database;
import com.healthmarketscience.jackcess.RelationshipBuilder;
import com.healthmarketscience.jackcess.Table;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The relationships of a file's tables, which are made when all records are there. */
final class Relationships {

    private final Database database;
    private final TableMaking making;
    private final List<TableDefinition> tables;
    private final Map<TableName, Table> written;

    /**
     * Of some tables.
     *
     * @param written those of them that are in the file
     */
    Relationships(Database database, TableMaking making, List<TableDefinition> tables, Map<TableName, Table> written) {
        this.database = database;
        this.making = making;
        this.tables = tables;
        this.written = written;
    }

    /** Makes those that the file can have; what it can't is told. */
    void make() throws IOException {
        AccessNames taken = new AccessNames();
        for (TableDefinition table : tables) {
            for (ForeignKey declared : table.foreignKeys()) {
                Table to = written.get(declared.target());
                Table from = written.get(table.name());
                ForeignKey key = inKeysOrder(declared);
                if (to == null || from == null) {
                    left(table, key, "its table isn't in the file");
                    continue;
                }
                if (!making.columnNames(key.target()).keySet().containsAll(key.targetColumns())) {
                    left(table, key, "it refers to a column of " + key.target() + " that isn't there");
                    continue;
                }
                String name = taken.of(key.name().isEmpty() ? from.getName() + to.getName() : key.name());
                related(table, key, () -> {
                    RelationshipBuilder builder = new RelationshipBuilder(to, from).setName(name);
                    for (int i = 0; i < key.columns().size(); i++) {
                        builder.addColumns(
                                making.columnNames(key.target())
                                        .get(key.targetColumns().get(i)),
                                making.columnNames(table.name())
                                        .get(key.columns().get(i)));
                    }
                    return builder;
                });
            }
        }
    }

    private void left(TableDefinition table, ForeignKey key, String reason) {
        making.leftBehind().add(new LeftBehind("foreign key", table.name() + "." + key.shown(), reason));
    }

    /** A relationship is looked for by the columns of an index as they follow each other; to a reference it is all the same. */
    private ForeignKey inKeysOrder(ForeignKey key) {
        Set<String> wanted = Set.copyOf(key.targetColumns());
        return tables.stream()
                .filter(t -> t.name().equals(key.target()))
                .flatMap(t -> Stream.of(
                                t.primaryKey().map(Key::columns).stream(),
                                t.uniqueKeys().stream().map(Key::columns),
                                t.indexes().stream()
                                        .filter(i -> i.unique() && i.isPlain())
                                        .map(IndexDefinition::columns))
                        .flatMap(columns -> columns))
                .filter(columns -> columns.size() == wanted.size() && wanted.containsAll(columns))
                .findFirst()
                .map(key::inOrderOf)
                .orElse(key);
    }

    private void rules(TableDefinition table, ForeignKey key, RelationshipBuilder builder) {
        if (key.onUpdate() == ReferentialAction.CASCADE) {
            builder.setCascadeUpdates();
        }
        if (key.onDelete() == ReferentialAction.CASCADE) {
            builder.setCascadeDeletes();
        } else if (key.onDelete() == ReferentialAction.SET_NULL) {
            builder.setCascadeNullOnDelete();
        }
        boolean other = key.onDelete() == ReferentialAction.SET_DEFAULT
                || key.onUpdate() == ReferentialAction.SET_DEFAULT
                || key.onUpdate() == ReferentialAction.SET_NULL;
        if (other) {
            making.leftBehind()
                    .add(new LeftBehind(
                            "referential action",
                            table.name() + "." + key.shown(),
                            "a desktop database has no SET DEFAULT, and no SET NULL on an update"));
        }
    }

    /**
     * What the library can't relate, such as columns without a key or of several types, is told; and so is what isn't kept since
     * records break it: the relationship stands in the file then, as the application has it without <i>Enforce Referential
     * Integrity</i>.
     */
    private void related(TableDefinition table, ForeignKey key, Supplier<RelationshipBuilder> builder)
            throws IOException {
        try {
            RelationshipBuilder kept = builder.get().setReferentialIntegrity();
            rules(table, key, kept);
            kept.toRelationship(database);
        } catch (IllegalArgumentException e) {
            left(table, key, e.getMessage());
        } catch (ConstraintViolationException e) {
            builder.get().toRelationship(database);
            making.leftBehind()
                    .add(
                            new LeftBehind(
                                    "referential integrity",
                                    table.name() + "." + key.shown(),
                                    "records refer to some of " + key.target()
                                            + " that aren't there, or were rejected: the relationship is there, and isn't kept"));
        }
    }
}
