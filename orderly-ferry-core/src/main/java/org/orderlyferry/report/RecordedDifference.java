package org.orderlyferry.report;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.reconcile.RecordValues;
import org.orderlyferry.reconcile.RowDifference;

/**
 * A record that isn't the same on both sides.
 *
 * @param kind missing, extra or different
 * @param key the columns by which it was found
 * @param differing the columns that differ
 * @param furtherColumns how many more differ
 */
@NullMarked
public record RecordedDifference(
        String table, String kind, List<DifferentValue> key, List<DifferentValue> differing, int furtherColumns) {

    private static final int MOST_COLUMNS = 8;

    public RecordedDifference {
        table = Bounded.text(table);
        kind = Bounded.text(kind);
        key = Bounded.list(key);
        differing = Bounded.list(differing);
    }

    static RecordedDifference of(RowDifference difference) {
        return new RecordedDifference(
                difference.table().name().text(),
                difference.kind().name().toLowerCase(Locale.ROOT),
                values(difference, difference.key()),
                values(difference, difference.differing()),
                Math.max(0, difference.differing().size() - MOST_COLUMNS));
    }

    private static List<DifferentValue> values(RowDifference difference, List<String> columns) {
        return columns.stream()
                .limit(MOST_COLUMNS)
                .map(c -> new DifferentValue(
                        c, value(difference, difference.source(), c), value(difference, difference.target(), c)))
                .toList();
    }

    private static @Nullable String value(RowDifference difference, Optional<RecordValues> side, String column) {
        int place = difference.table().columnNames().indexOf(column);
        boolean binary = difference.table().columns().get(place).type().name().isBinary();
        return side.map(values -> binary ? values.hex(place) : values.text(place))
                .orElse(null);
    }
}
