package org.orderlyferry.documents.mongodb;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.documents.trial.TrialLoading;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.Screen;

/** What a load will make of tables, made up of what comes and what is there; nothing is changed by it. */
final class LoadTables implements TrialLoading.Plan {

    private final Map<TableName, LoadTable> tables = new LinkedHashMap<>();
    private final List<Finding> findings = new ArrayList<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();

    /**
     * Makes it up.
     *
     * @param there the names of the collections that are there
     * @throws UsageException if what is there doesn't allow it
     */
    LoadTables(List<TableDefinition> wanted, LoadModes modes, Set<String> there, StoreAddress address) {
        Map<TableName, ListTable> lists = ListTable.among(wanted, address.nested());
        StoreNames names = new StoreNames(wanted, lists.keySet());
        findings.addAll(names.findings());
        for (TableDefinition source : wanted) {
            Optional<ListTable> list = Optional.ofNullable(lists.get(source.name()));
            TableDefinition target = names.of(source);
            String collection = target.name().name();
            boolean isThere = there.contains(collection);
            LoadMode mode = modes.of(source.name());
            if (isThere && list.isPresent()) {
                throw new UsageException("the records of table " + source.name()
                        + " become lists in other documents, and there is a collection of that name in "
                        + address.shown());
            }
            if (isThere && mode == LoadMode.CREATE) {
                throw new UsageException("the collection " + collection + " is in " + address.shown() + " already");
            }
            if (isThere && mode == LoadMode.MERGE && target.primaryKey().isEmpty()) {
                throw new UsageException("table " + source.name() + " has no key to merge by");
            }
            LoadNote.Part part = new LoadNote.Part(
                    collection,
                    list.isPresent() ? Optional.empty() : Optional.of(isThere ? mode : LoadMode.CREATE),
                    tables.size() + 1);
            tables.put(source.name(), new LoadTable(source, target, part, address.writesNulls(), list));
            tell(source, list.isPresent());
        }
    }

    @Override
    public Screen screen(TableName table) {
        return tables.get(table).screen();
    }

    private void tell(TableDefinition source, boolean isList) {
        for (ColumnDefinition column : source.columns()) {
            tell(source, column);
        }
        for (ForeignKey reference : source.foreignKeys()) {
            if (!isList) {
                left(
                        "reference",
                        source,
                        reference.shown(),
                        "documents refer to each other without the server's knowing");
            }
        }
        for (CheckConstraint check : source.checks()) {
            left("check", source, check.name(), "documents have no checks over several fields");
        }
        for (IndexDefinition index : source.indexes()) {
            if (!isPlain(index)) {
                left("index", source, index.shown(), "is over an expression, or of some rows only");
            }
        }
        if (isList) {
            source.uniqueKeys().forEach(k -> left("unique key", source, k.shown(), "is over elements of lists"));
            source.indexes().stream()
                    .filter(LoadTables::isPlain)
                    .forEach(i -> left("index", source, i.shown(), "is over elements of lists"));
        }
    }

    private void tell(TableDefinition source, ColumnDefinition column) {
        column.defaultValue()
                .ifPresent(d ->
                        left("default", source, column.name(), "documents have none: the application gives values"));
        column.identity()
                .ifPresent(i -> left("counter", source, column.name(), "documents have none: the application counts"));
        column.generation()
                .ifPresent(
                        g -> left("rule", source, column.name(), "its values are written, and aren't computed again"));
        if (!column.collation().isEmpty()) {
            left("collation", source, column.name(), "texts are compared by their bytes");
        }
        Held held = Held.of(column, source.system());
        LogicalType type = column.type();
        String change =
                switch (held) {
                    case TEXT ->
                        type.name().isText()
                                ? ""
                                : type.name().isTimed()
                                        ? "becomes text as ISO 8601 has it, since a date of documents has milliseconds"
                                        : "becomes text, since documents have no such type";
                    case MOMENT ->
                        type.equals(held.type()) ? "" : "becomes a date of documents, which is a moment in UTC";
                    case DOUBLE -> type.equals(held.type()) ? "" : "becomes a double";
                    default -> "";
                };
        if (!change.isEmpty()) {
            findings.add(new Finding(FindingCode.TYPE_CHANGED, source.name(), column.name(), type + " " + change));
        }
    }

    private void left(String kind, TableDefinition table, String name, String reason) {
        leftBehind.add(new LeftBehind(kind, table.name() + "." + name, reason));
    }

    /** Whether documents can have such an index. */
    static boolean isPlain(IndexDefinition index) {
        return index.own().isEmpty()
                && index.predicate().isEmpty()
                && index.parts().stream().allMatch(p -> p.expression().isEmpty());
    }

    /** All tables, by their names at the source. */
    Map<TableName, LoadTable> tables() {
        return tables;
    }

    @Override
    public List<Finding> findings() {
        return findings;
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return leftBehind;
    }

    /** What would be kept of each table's definition, by the tables' names at the source. */
    Map<TableName, TableDefinition> kept() {
        Map<TableName, TableDefinition> kept = new LinkedHashMap<>();
        tables.forEach((name, table) -> kept.put(
                name,
                table.target().toBuilder()
                        .columns(table.target().columns().stream()
                                .map(c -> ColumnDefinition.named(c.name(), c.type())
                                        .nullable(c.nullable())
                                        .build())
                                .toList())
                        .foreignKeys(List.of())
                        .checks(List.of())
                        .indexes(table.target().indexes().stream()
                                .filter(LoadTables::isPlain)
                                .toList())
                        .comment("")
                        .system(Held.SYSTEM)
                        .build()));
        return kept;
    }
}
