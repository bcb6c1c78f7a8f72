package org.orderlyferry.office.sheet;

import java.util.EnumSet;
import java.util.Set;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** Which kinds of cells a column has, and what type that makes. */
final class ColumnKinds {

    private final Set<CellKind> kinds = EnumSet.noneOf(CellKind.class);
    /** Milliseconds, which all spreadsheets keep; more where a file has more. */
    private int fraction = 3;

    void add(CellKind kind, int digits) {
        kinds.add(kind);
        fraction = Math.max(fraction, digits);
    }

    boolean areSeveral() {
        return kinds.size() > 1;
    }

    LogicalType type() {
        if (kinds.equals(Set.of(CellKind.NUMBER))) {
            return LogicalType.of(TypeName.DECIMAL);
        }
        if (kinds.equals(Set.of(CellKind.TRUTH))) {
            return LogicalType.BOOLEAN;
        }
        if (kinds.equals(Set.of(CellKind.DAY))) {
            return LogicalType.DATE;
        }
        if (kinds.equals(Set.of(CellKind.TIME))) {
            return LogicalType.of(TypeName.TIME, fraction);
        }
        Set<CellKind> moments = EnumSet.of(CellKind.DAY, CellKind.MOMENT);
        return !kinds.isEmpty() && moments.containsAll(kinds)
                ? LogicalType.of(TypeName.TIMESTAMP, fraction)
                : LogicalType.CLOB;
    }
}
