package org.orderlyferry.documents.mongodb;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.apart.Apart;

/**
 * A table whose records are elements of a list in documents of another one: since it was taken out of these, or because a person has
 * told so.
 *
 * @param of the table of these documents
 * @param path where in them the list is
 * @param parent the place of the column that says in which of them
 * @param place the place of the column that says at which place of the list; -1 where the records' own order does
 */
record ListTable(TableName of, String path, int parent, int place) {

    /** Between the name of a table that is nested and that of the one in whose documents. */
    private static final String IN = ":";

    /**
     * All such tables among some.
     *
     * @param tables in the order in which they are loaded
     * @param told the names of those that a person wants to be such, each with {@code :} and the name of the other table behind it where it
     *     refers to several
     * @throws UsageException if one of these can't be
     */
    static Map<TableName, ListTable> among(List<TableDefinition> tables, Set<String> told) {
        Map<TableName, ListTable> lists = new LinkedHashMap<>();
        for (TableDefinition table : tables) {
            Optional<String> wanted = told.stream()
                    .filter(t -> (t + IN).startsWith(table.name().name() + IN))
                    .findFirst();
            List<ListTable> found = table.foreignKeys().stream()
                    .flatMap(r -> tables.stream()
                            .filter(t ->
                                    t.name().equals(r.target()) && !t.name().equals(table.name()))
                            .flatMap(t -> of(table, r, t, wanted.isPresent()).stream()))
                    .filter(l -> wanted.isEmpty()
                            || wanted.get().equals(table.name().name())
                            || wanted.get().equals(table.name().name() + IN + l.of().name()))
                    .toList();
            if (found.size() > 1) {
                throw new UsageException(
                        "table " + table.name() + " refers to several tables in which it could be nested; "
                                + table.name().name() + IN + found.get(0).of().name() + " says which");
            }
            found.forEach(l -> lists.put(table.name(), l));
        }
        // documents are nested once: what is an element has no key to refer to
        Set<TableName> elements = Set.copyOf(lists.keySet());
        lists.values().removeIf(l -> elements.contains(l.of()));
        for (String name : told) {
            if (lists.keySet().stream().noneMatch(t -> (name + IN).startsWith(t.name() + IN))) {
                throw new UsageException("table " + name
                        + " can't be nested: it isn't there, or refers to no table of the load by one column, to that one's key, or only"
                        + " to one that is nested itself");
            }
        }
        return lists;
    }

    private static Optional<ListTable> of(
            TableDefinition table, ForeignKey reference, TableDefinition target, boolean told) {
        if (reference.columns().size() != 1
                || !target.primaryKey().map(Key::columns).equals(Optional.of(reference.targetColumns()))) {
            return Optional.empty();
        }
        int parent = table.columnNames().indexOf(reference.columns().get(0));
        if (told) {
            return Optional.of(new ListTable(target.name(), table.name().name(), parent, -1));
        }
        String prefix = target.name().name() + Apart.LIST;
        boolean apart = reference.columns().equals(List.of(Apart.PARENT))
                && table.primaryKey().map(Key::columns).equals(Optional.of(List.of(Apart.PARENT, Apart.PLACE)))
                && table.name().name().startsWith(prefix);
        return apart
                ? Optional.of(new ListTable(
                        target.name(),
                        table.name().name().substring(prefix.length()),
                        parent,
                        table.columnNames().indexOf(Apart.PLACE)))
                : Optional.empty();
    }
}
