package org.orderlyferry.record.fit;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * What has to be done to bring a column's values to another one.
 *
 * @param to the column that takes them
 * @param conversion null where every value's text is the same in both
 * @param required whether a null may come, and can't be taken
 */
record ColumnFit(ColumnDefinition to, @Nullable Conversion conversion, boolean required) {

    /** For columns in the same order. */
    static List<ColumnFit> between(List<ColumnDefinition> from, List<ColumnDefinition> to) {
        List<ColumnFit> fits = new ArrayList<>();
        for (int i = 0; i < to.size(); i++) {
            fits.add(new ColumnFit(
                    to.get(i),
                    Conversion.between(from.get(i).type(), to.get(i).type()),
                    from.get(i).nullable() && !to.get(i).nullable()));
        }
        return List.copyOf(fits);
    }

    /** A null that can't be taken. */
    BadValueException missing(Records batch, int row) {
        return new BadValueException(batch.origin(row), to.name(), null, "isn't allowed: the column is NOT NULL");
    }

    /** A value that can't be taken. */
    BadValueException misfit(Records batch, int row, int column, InvalidValueException why) {
        return new BadValueException(batch.origin(row), to.name(), batch.text(row, column), why.getMessage());
    }
}
