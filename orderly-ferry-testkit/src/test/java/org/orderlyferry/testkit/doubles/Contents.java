package org.orderlyferry.testkit.doubles;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/**
 * What is in a place, as plain texts, without any of the code that compares places for users: value text, brought to one
 * form of the type that a truth gives.
 */
public final class Contents {

    private Contents() {}

    /** All that a reader gives, as value text; binary values in Base64. The reader is closed. */
    public static List<List<String>> of(RecordReader reader) {
        List<List<String>> rows = new ArrayList<>();
        try (reader) {
            drain(reader, rows);
        }
        return rows;
    }

    /** Adds what a reader gives, as far as it comes. */
    public static void drain(RecordReader reader, List<List<String>> rows) {
        List<ColumnDefinition> columns = reader.table().columns();
        RecordBatch batch = new RecordBatch();
        while (reader.read(batch)) {
            for (int row = 0; row < batch.rows(); row++) {
                List<String> values = new ArrayList<>();
                for (int column = 0; column < batch.columns(); column++) {
                    values.add(
                            batch.isNull(row, column)
                                    ? null
                                    : columns.get(column).type().name().isBinary()
                                            ? Base64.getEncoder().encodeToString(batch.copy(row, column))
                                            : batch.text(row, column));
                }
                rows.add(values);
            }
        }
    }

    /** A table's records in one form and order. */
    public static List<String> sorted(Place place, TableName table, TableDefinition truth) {
        return sorted(of(place.read(Slice.whole(place.define(table)))), truth);
    }

    /** Records in one form and order. */
    public static List<String> sorted(List<List<String>> rows, TableDefinition truth) {
        return inOneForm(rows, truth).stream().sorted().toList();
    }

    /** Records in one form, in the order that they have. */
    public static List<String> inOneForm(List<List<String>> rows, TableDefinition truth) {
        return rows.stream().map(r -> inOneForm(truth, r)).toList();
    }

    private static String inOneForm(TableDefinition truth, List<String> row) {
        List<String> forms = new ArrayList<>();
        for (int i = 0; i < row.size(); i++) {
            forms.add(inOneForm(truth.columns().get(i).type(), row.get(i)));
        }
        return forms.stream().map(f -> f == null ? "null" : '\'' + f + '\'').collect(Collectors.joining(", "));
    }

    /** A value in the one form that all texts of the same value share. */
    static String inOneForm(LogicalType type, String text) {
        if (text == null) {
            return null;
        }
        return switch (type.name()) {
            case SMALLINT, INTEGER, BIGINT, DECIMAL -> {
                BigDecimal number = new BigDecimal(text);
                yield number.signum() == 0 ? "0" : number.stripTrailingZeros().toPlainString();
            }
            case REAL -> Float.toString(Float.parseFloat(text));
            // no format that knows no binary fractions keeps the sign of nothing
            case DOUBLE -> Double.toString(Double.parseDouble(text) + 0.0);
            case BOOLEAN -> text.toLowerCase(Locale.ROOT).replace("1", "true").replace("0", "false");
            // a system without times that have no zone holds them in UTC
            case TIMESTAMP -> withoutZeros(text).replaceFirst("Z$", "");
            case TIME, TIMESTAMP_WITH_TIME_ZONE -> withoutZeros(text);
            default -> text;
        };
    }

    private static String withoutZeros(String time) {
        return time.replaceFirst("(\\.\\d*?)0+($|[Z+-])", "$1$2").replaceFirst("\\.($|[Z+-])", "$1");
    }
}
