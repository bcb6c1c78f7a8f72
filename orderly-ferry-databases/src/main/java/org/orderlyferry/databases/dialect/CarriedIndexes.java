package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.databases.sql.IndexTail;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;

/** Indexes of more than columns, as a system can have them. */
final class CarriedIndexes {

    private final Adapting adapting;
    private final CarriedSql sql;
    private final LoadNotes notes;

    CarriedIndexes(Adapting adapting, CarriedSql sql, LoadNotes notes) {
        this.adapting = adapting;
        this.sql = sql;
        this.notes = notes;
    }

    /** An index as the system can have it; left behind by name where it can't. */
    Optional<IndexDefinition> index(TableDefinition table, IndexDefinition index, Map<String, String> columnNames) {
        if (index.isPlain()) {
            return Optional.of(index);
        }
        if (isOfBeginnings(index) && !adapting.isOwn(table)) {
            return Optional.of(whole(table, index));
        }
        Optional<IndexDefinition> carried = adapting.isOwn(table) && index.own().isPresent()
                ? Optional.of(index).filter(adapting::canIndex).flatMap(i -> own(table, i, columnNames))
                : adapting.isOwn(table) || adapting.canIndex(index)
                        ? carried(table, index, columnNames)
                        : Optional.empty();
        if (carried.isEmpty()) {
            notes.leftBehind(
                    "index",
                    table.name() + "." + index.name(),
                    (adapting.isOwn(table) && adapting.canIndex(index)
                                    ? "it goes beyond what is read of one: "
                                    : sql.system() + " has no such index: ")
                            + said(index));
        }
        return carried;
    }

    private static boolean isOfBeginnings(IndexDefinition index) {
        return index.unique()
                && index.own().isEmpty()
                && index.predicate().isEmpty()
                && index.parts().stream().allMatch(p -> p.expression().isEmpty());
    }

    /** What is unique by its beginning is so as a whole. */
    private IndexDefinition whole(TableDefinition table, IndexDefinition index) {
        notes.leftBehind(
                "beginning",
                table.name() + "." + index.shown(),
                "whole values are unique here; at the source the first "
                        + index.parts().stream()
                                .filter(p -> p.prefix() > 0)
                                .map(p -> p.prefix() + " of " + p.column())
                                .collect(Collectors.joining(", ")));
        return new IndexDefinition(
                index.name(),
                true,
                index.parts().stream()
                        .map(p -> new IndexDefinition.Part(p.column(), p.descending()))
                        .toList());
    }

    /** An index of the same system whose parts don't say all of it. */
    private Optional<IndexDefinition> own(
            TableDefinition table, IndexDefinition index, Map<String, String> columnNames) {
        return IndexTail.rewrite(index.own().get(), table, adapting, column -> CarriedSql.found(column, columnNames))
                .or(() -> sql.trusted(index.own().get(), table, index.name()))
                .map(tail -> new IndexDefinition(
                        index.name(),
                        index.unique(),
                        index.parts(),
                        index.predicate(),
                        Optional.of(new SqlText(tail, sql.system()))));
    }

    private Optional<IndexDefinition> carried(
            TableDefinition table, IndexDefinition index, Map<String, String> columnNames) {
        List<IndexDefinition.Part> parts = new ArrayList<>();
        for (IndexDefinition.Part part : index.parts()) {
            Optional<String> text = part.expression().flatMap(e -> sql.carried(table, e, columnNames));
            if (part.expression().isPresent() && text.isEmpty() || part.prefix() > 0 && !adapting.isOwn(table)) {
                return Optional.empty();
            }
            parts.add(text.map(t -> IndexDefinition.Part.of(new SqlText(t, sql.system()), part.descending()))
                    .orElse(part));
        }
        Optional<String> predicate = index.predicate().flatMap(p -> sql.carried(table, p, columnNames));
        if (index.predicate().isPresent() && predicate.isEmpty() || parts.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(new IndexDefinition(
                index.name(),
                index.unique(),
                parts,
                predicate.map(text -> new SqlText(text, sql.system())),
                Optional.empty()));
    }

    private static String said(IndexDefinition index) {
        String parts = index.parts().isEmpty() ? "" : index.parts().toString();
        return index.own().map(SqlText::sql).orElse(parts)
                + (index.own().isEmpty()
                        ? index.predicate().map(p -> " WHERE " + p.sql()).orElse("")
                        : "");
    }
}
