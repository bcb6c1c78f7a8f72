package org.orderlyferry.model;

import java.util.ArrayList;
import java.util.List;

/**
 * A reference from one table's columns to a key of another table, or of the same one.
 *
 * @param name the constraint's name; empty where the system gave none
 * @param columns the referring columns
 * @param target the table referred to
 * @param targetColumns the columns referred to, in the order of {@code columns}
 * @param deferrability when it is checked
 */
public record ForeignKey(
        String name,
        List<String> columns,
        TableName target,
        List<String> targetColumns,
        ReferentialAction onUpdate,
        ReferentialAction onDelete,
        Deferrability deferrability) {
    public ForeignKey {
        columns = List.copyOf(columns);
        targetColumns = List.copyOf(targetColumns);
        if (columns.isEmpty() || columns.size() != targetColumns.size()) {
            throw new IllegalArgumentException("a reference has as many columns on one side as on the other");
        }
    }

    /** A reference that is checked at once. */
    public ForeignKey(
            String name,
            List<String> columns,
            TableName target,
            List<String> targetColumns,
            ReferentialAction onUpdate,
            ReferentialAction onDelete) {
        this(name, columns, target, targetColumns, onUpdate, onDelete, Deferrability.NOT_DEFERRABLE);
    }

    /** Its name for messages: its columns, where it has none. */
    public String shown() {
        return name.isEmpty() ? String.join("+", columns) : name;
    }

    /** The same reference under another name. */
    public ForeignKey withName(String other) {
        return new ForeignKey(other, columns, target, targetColumns, onUpdate, onDelete, deferrability);
    }

    /** The same reference to a table of another name. */
    public ForeignKey withTarget(TableName other) {
        return new ForeignKey(name, columns, other, targetColumns, onUpdate, onDelete, deferrability);
    }

    /** The same reference between columns of other names. */
    public ForeignKey withColumns(List<String> others, List<String> otherTargets) {
        return new ForeignKey(name, others, target, otherTargets, onUpdate, onDelete, deferrability);
    }

    /** The same reference with its columns in another order, in which it refers to these. */
    public ForeignKey inOrderOf(List<String> targets) {
        return withColumns(
                targets.stream().map(t -> columns.get(targetColumns.indexOf(t))).toList(), targets);
    }

    /** The same reference with other actions. */
    public ForeignKey withActions(ReferentialAction update, ReferentialAction delete) {
        return new ForeignKey(name, columns, target, targetColumns, update, delete, deferrability);
    }

    /** This reference with more columns, for a catalogue that gives one column a row. */
    public ForeignKey and(ForeignKey more) {
        List<String> allColumns = new ArrayList<>(columns);
        allColumns.addAll(more.columns);
        List<String> allTargets = new ArrayList<>(targetColumns);
        allTargets.addAll(more.targetColumns);
        return new ForeignKey(name, allColumns, target, allTargets, onUpdate, onDelete, deferrability);
    }
}
