package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.slf4j.LoggerFactory;

/**
 * What a system has and this very server lacks: a collation that somebody made or that its operating system gives, an
 * operator class that comes with an extension, a function of a later version. It is left behind by name before any record
 * moves, rather than found out when all records are in.
 */
final class PossibleHere {

    /** No table on its way has it: they are counted from one on. */
    private static final TableName TRIAL = TableName.of(ReservedNames.onTheWay(0));

    private final Session session;
    private final Writing writing;
    private final LoadNotes notes;
    private final Map<String, Optional<String>> collations = new HashMap<>();

    PossibleHere(Session session, LoadNotes notes) {
        this.session = session;
        this.writing = session.dialect().writing();
        this.notes = notes;
    }

    /** A table without what the server says that it hasn't; it is only asked. */
    TableDefinition asked(TableDefinition table) throws SQLException {
        List<ColumnDefinition> columns = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            Optional<String> known = column.collation().isEmpty() ? Optional.of("") : hasCollation(column.collation());
            columns.add(column.toBuilder().collation(known.orElse("")).build());
            if (known.isEmpty()) {
                notes.leftBehind(
                        "collation",
                        table.name() + "." + column.name(),
                        "this server has no collation " + column.collation()
                                + "; texts are compared as it does by default");
            }
        }
        return table.toBuilder().columns(columns).build();
    }

    private Optional<String> hasCollation(String collation) throws SQLException {
        if (!collations.containsKey(collation)) {
            collations.put(collation, writing.collation(session, collation));
        }
        return collations.get(collation);
    }

    /**
     * The way of a table without the indexes that the server can't make. Where they are more than columns, that is tried in
     * an empty table of the session's own, which is forgotten at once.
     */
    Route tried(Route route) throws SQLException {
        TableDefinition table = route.arrival().table();
        Optional<String> words = writing.trialTable();
        if (!route.arrival().isNewTable()
                || words.isEmpty()
                || table.indexes().stream().allMatch(IndexDefinition::isPlain)) {
            return route;
        }
        Savepoint before = session.connection().setSavepoint();
        try {
            return route.withTable(tried(table, words.get()));
        } finally {
            session.connection().rollback(before);
        }
    }

    private TableDefinition tried(TableDefinition table, String words) throws SQLException {
        TableDefinition trial = bare(table);
        List<String> create = new ArrayList<>();
        for (Settling.Step type : writing.typeSteps(session, trial)) {
            create.add(type.sql());
        }
        create.add(writing.createStatements(trial).get(0).replaceFirst("^CREATE TABLE", words));
        if (refusal(create).isPresent()) {
            // whether it can be made is seen when it is made
            return table;
        }
        List<IndexDefinition> possible = new ArrayList<>();
        for (IndexDefinition index : table.indexes()) {
            IndexDefinition tried = index.withName(TRIAL.name() + "t" + possible.size());
            Optional<String> refused = index.isPlain()
                    ? Optional.empty()
                    : refusal(writing.keyStatements(
                            trial.toBuilder().indexes(List.of(tried)).build()));
            if (refused.isEmpty()) {
                possible.add(index);
            } else {
                notes.leftBehind(
                        "index",
                        table.name() + "." + index.name(),
                        "the server can't make it: "
                                + refused.get()
                                        .replace(tried.name(), index.name())
                                        .replace(TRIAL.name(), table.name().name()));
            }
        }
        return table.toBuilder().indexes(possible).build();
    }

    /** Its columns alone, without whatever else might be refused. */
    private static TableDefinition bare(TableDefinition table) {
        return table.toBuilder()
                .name(TRIAL)
                .columns(table.columns().stream()
                        .map(c -> c.toBuilder()
                                .defaultValue(Optional.empty())
                                .generation(Optional.empty())
                                .identity(Optional.empty())
                                .comment("")
                                .build())
                        .toList())
                .primaryKey((Key) null)
                .uniqueKeys(List.of())
                .foreignKeys(List.of())
                .checks(List.of())
                .indexes(List.of())
                .comment("")
                .build();
    }

    /** Why the server refuses statements; nothing of them stays then. */
    private Optional<String> refusal(List<String> statements) throws SQLException {
        Savepoint before = session.connection().setSavepoint();
        try {
            for (String sql : statements) {
                session.execute(sql);
            }
            return Optional.empty();
        } catch (SQLException e) {
            LoggerFactory.getLogger(PossibleHere.class).debug("tried, and refused", e);
            session.connection().rollback(before);
            return Optional.of(String.valueOf(e.getMessage()));
        }
    }
}
