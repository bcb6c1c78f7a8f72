package org.orderlyferry.file;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.orderlyferry.csvw.CellRule;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.EachRecordReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JsonElement;
import org.orderlyferry.record.text.ValueText;

/** Reads cells by the rules of their columns, in the order of CSVW's "parsing cells": empty, several values, null. */
final class RuledReader extends EachRecordReader {

    private final List<ColumnDefinition> columns;
    private final Optional<CellRule>[] rules;
    private final Optional<String> fileNull;

    private RuledReader(RecordReader reader, Optional<CellRule>[] rules, Optional<String> fileNull, Rejects rejects) {
        super(reader, rejects);
        this.columns = reader.table().columns();
        this.rules = rules;
        this.fileNull = fileNull;
    }

    /**
     * The reader itself where no column has rules of its own.
     *
     * @param fileNulls what stands for null in the file, and has become null already
     */
    @SuppressWarnings("unchecked")
    static RecordReader of(
            RecordReader reader, Map<String, CellRule> byColumn, List<String> fileNulls, Rejects rejects) {
        Optional<CellRule>[] rules = reader.table().columnNames().stream()
                .map(n -> Optional.ofNullable(byColumn.get(n)))
                .toArray(Optional[]::new);
        boolean any = false;
        for (Optional<CellRule> rule : rules) {
            any |= rule.isPresent();
        }
        Optional<String> fileNull = fileNulls.size() == 1 ? Optional.of(fileNulls.get(0)) : Optional.empty();
        return any ? new RuledReader(reader, rules, fileNull, rejects) : reader;
    }

    @Override
    protected void look(RecordBatch batch, int row) {
        for (int column = 0; column < rules.length; column++) {
            if (rules[column].isPresent()) {
                cell(batch, row, column, rules[column].get());
            }
        }
    }

    private void cell(RecordBatch batch, int row, int column, CellRule rule) {
        boolean wasNull = batch.isNull(row, column);
        String found = wasNull ? fileNull.orElse(null) : batch.text(row, column);
        if (found == null) {
            return;
        }
        String text = found.isEmpty() ? rule.otherwise().orElse("") : found;
        boolean isNull = rule.nulls().map(n -> n.contains(text)).orElse(wasNull && text.equals(found));
        if (rule.separator().isPresent() && (text.isEmpty() || !isNull)) {
            put(batch, row, column, list(batch.origin(row), columns.get(column), text, rule));
        } else if (isNull) {
            batch.replaceByNull(row, column);
        } else if (wasNull || !text.equals(found)) {
            put(batch, row, column, text);
        }
    }

    private static void put(RecordBatch batch, int row, int column, String text) {
        batch.replace(row, column, text.getBytes(StandardCharsets.UTF_8));
    }

    /** The values of a cell as a JSON array. */
    private static String list(Origin origin, ColumnDefinition column, String text, CellRule rule) {
        LogicalType type = column.type().element();
        List<String> elements = new ArrayList<>();
        String[] parts = text.isEmpty()
                ? new String[0]
                : text.split(Pattern.quote(rule.separator().get()), -1);
        for (String part : parts) {
            try {
                elements.add(element(type.name().isText() ? part : part.strip(), type, rule));
            } catch (InvalidValueException e) {
                throw new BadValueException(
                        origin, column.name(), text, "holds '" + part + "', which " + e.getMessage());
            }
        }
        return "[" + String.join(",", elements) + "]";
    }

    private static String element(String part, LogicalType type, CellRule rule) throws InvalidValueException {
        String value = rule.elements().changes(type) ? rule.elements().read(part, type) : part;
        ValueText form = ValueText.of(type);
        byte[] bytes = value.getBytes(StandardCharsets.UTF_8);
        return JsonElement.of(form.isProper(bytes, 0, bytes.length) ? value : form.toProper(value), type);
    }
}
