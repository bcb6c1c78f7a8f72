package org.orderlyferry.databases.dialect;

import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** Sizes that some systems have and most don't: more digits behind the point than in all, and texts and bytes of no length. */
final class PlainSize {

    private PlainSize() {}

    /** A column of a size that every system has, and that holds all of its values. */
    static ColumnDefinition of(TableDefinition table, ColumnDefinition column, LoadNotes notes) {
        LogicalType type = column.type();
        LogicalType plain = type;
        if (type.name() == TypeName.DECIMAL && type.isSized() && type.scale() > type.size()) {
            plain = LogicalType.decimal(type.scale(), type.scale());
        } else if (type.size() == 0 && (type.name().isText() || type.name().isBinary())) {
            plain = LogicalType.of(type.name().isText() ? TypeName.VARCHAR : TypeName.VARBINARY, 1);
        }
        if (plain.equals(type)) {
            return column;
        }
        notes.finding(
                FindingCode.TYPE_CHANGED,
                table.name(),
                column.name(),
                "not every system has " + type + "; the column becomes " + plain);
        return column.withType(plain);
    }
}
