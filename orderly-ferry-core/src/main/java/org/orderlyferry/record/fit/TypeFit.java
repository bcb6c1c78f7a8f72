package org.orderlyferry.record.fit;

import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** Whether values of one type can be held by another. */
public enum TypeFit {
    /** All of them can. */
    ALWAYS,
    /** Some of them may not: each has to be looked at. */
    BY_VALUE,
    /** None can. */
    NEVER;

    /** How values of a type fit another. */
    public static TypeFit of(LogicalType from, LogicalType to) {
        if (from.equals(to)) {
            return ALWAYS;
        }
        TypeName a = from.name();
        TypeName b = to.name();
        if (a.isBinary() || b.isBinary()) {
            return a.isBinary() && b.isBinary() ? sized(from, to) : NEVER;
        }
        if (b.isText() || b == TypeName.XML) {
            return a.isText() ? sized(from, to) : to.isSized() ? BY_VALUE : ALWAYS;
        }
        if (a.isText() || a == TypeName.XML) {
            return BY_VALUE;
        }
        if (a == b) {
            return sameName(from, to);
        }
        if (isNumber(a) && isNumber(b)) {
            return a.isExactNumber() && b.isExactNumber() && a != TypeName.DECIMAL ? wholeNumber(a, to) : BY_VALUE;
        }
        boolean truth = a == TypeName.BOOLEAN && b.isExactNumber() || b == TypeName.BOOLEAN && a.isExactNumber();
        boolean moments = isDated(a) && isDated(b);
        return truth || moments || b == TypeName.JSON ? BY_VALUE : NEVER;
    }

    private static boolean isNumber(TypeName name) {
        return name.isExactNumber() || name.isApproximateNumber();
    }

    private static boolean isDated(TypeName name) {
        return name == TypeName.DATE || name == TypeName.TIMESTAMP || name == TypeName.TIMESTAMP_WITH_TIME_ZONE;
    }

    private static TypeFit sized(LogicalType from, LogicalType to) {
        return !to.isSized() || from.isSized() && from.size() <= to.size() ? ALWAYS : BY_VALUE;
    }

    private static TypeFit sameName(LogicalType from, LogicalType to) {
        if (from.name() == TypeName.DECIMAL) {
            boolean holds = !to.isSized()
                    || from.isSized()
                            && Math.max(0, from.scale()) <= Math.max(0, to.scale())
                            && from.size() - Math.max(0, from.scale()) <= to.size() - Math.max(0, to.scale());
            return holds ? ALWAYS : BY_VALUE;
        }
        return sized(from, to);
    }

    private static TypeFit wholeNumber(TypeName from, LogicalType to) {
        int digits = digits(from);
        if (to.name() == TypeName.DECIMAL) {
            return !to.isSized() || to.size() - Math.max(0, to.scale()) >= digits ? ALWAYS : BY_VALUE;
        }
        return digits <= digits(to.name()) ? ALWAYS : BY_VALUE;
    }

    private static int digits(TypeName whole) {
        return switch (whole) {
            case SMALLINT -> 5;
            case INTEGER -> 10;
            default -> 19;
        };
    }
}
