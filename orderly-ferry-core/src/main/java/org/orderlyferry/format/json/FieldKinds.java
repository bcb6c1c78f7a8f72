package org.orderlyferry.format.json;

import com.fasterxml.jackson.core.JsonToken;
import java.util.EnumSet;
import java.util.Set;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** Which kinds of values a field has in some record. */
final class FieldKinds {

    private enum Kind {
        TEXT,
        NUMBER,
        TRUTH,
        STRUCTURE,
        WRAPPED
    }

    private final Set<Kind> kinds = EnumSet.noneOf(Kind.class);
    private LogicalType wrapped;

    void add(JsonToken token) {
        switch (token) {
            case VALUE_STRING -> kinds.add(Kind.TEXT);
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> kinds.add(Kind.NUMBER);
            case VALUE_TRUE, VALUE_FALSE -> kinds.add(Kind.TRUTH);
            case START_OBJECT, START_ARRAY -> kinds.add(Kind.STRUCTURE);
            default -> {
                // a null is of every kind
            }
        }
    }

    void add(LogicalType type) {
        if (wrapped != null && !wrapped.equals(type)) {
            kinds.add(Kind.STRUCTURE);
        }
        wrapped = type;
        kinds.add(Kind.WRAPPED);
    }

    /** The type that holds them all; a number's has still to be found out. */
    LogicalType type() {
        if (kinds.equals(EnumSet.of(Kind.NUMBER))) {
            return LogicalType.of(TypeName.DECIMAL);
        }
        if (kinds.equals(EnumSet.of(Kind.TRUTH))) {
            return LogicalType.BOOLEAN;
        }
        if (kinds.equals(EnumSet.of(Kind.WRAPPED))) {
            return wrapped;
        }
        return kinds.contains(Kind.STRUCTURE) || kinds.contains(Kind.WRAPPED) ? LogicalType.JSON : LogicalType.CLOB;
    }

    /** Whether values are of several kinds that no one type but text holds. */
    boolean isMixed() {
        return kinds.size() > 1;
    }

    /** What they are, for people. */
    @Override
    public String toString() {
        StringBuilder text = new StringBuilder();
        for (Kind kind : kinds) {
            text.append(text.isEmpty() ? "" : " and ")
                    .append(
                            switch (kind) {
                                case TEXT -> "texts";
                                case NUMBER -> "numbers";
                                case TRUTH -> "true or false";
                                case STRUCTURE -> "objects or arrays";
                                case WRAPPED -> "typed wrappers";
                            });
        }
        return text.toString();
    }
}
