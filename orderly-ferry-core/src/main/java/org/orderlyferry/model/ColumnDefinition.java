package org.orderlyferry.model;

import java.util.Objects;
import java.util.Optional;

/**
 * One column of a table.
 *
 * @param name as the system holds it, unquoted
 * @param type the logical type
 * @param nullable whether null is allowed
 * @param defaultValue what stands in when no value is given
 * @param identity the counter that fills the column, if one does
 * @param generatedAs the expression of a generated column, as its system wrote it
 * @param sourceType the type as its own system names it, for people; empty where there is none
 * @param comment empty for none
 */
public record ColumnDefinition(
        String name,
        LogicalType type,
        boolean nullable,
        Optional<ColumnDefault> defaultValue,
        Optional<Identity> identity,
        Optional<String> generatedAs,
        String sourceType,
        String comment) {

    public ColumnDefinition {
        if (name.isEmpty()) {
            throw new IllegalArgumentException("a column's name can't be empty");
        }
        Objects.requireNonNull(type, "type");
    }

    /** A nullable column with nothing but a type. */
    public static ColumnDefinition of(String name, LogicalType type) {
        return new ColumnDefinition(name, type, true, Optional.empty(), Optional.empty(), Optional.empty(), "", "");
    }

    public ColumnDefinition withType(LogicalType other) {
        return new ColumnDefinition(name, other, nullable, defaultValue, identity, generatedAs, sourceType, comment);
    }

    public ColumnDefinition withNullable(boolean other) {
        return new ColumnDefinition(name, type, other, defaultValue, identity, generatedAs, sourceType, comment);
    }

    public ColumnDefinition withDefault(ColumnDefault other) {
        return new ColumnDefinition(
                name, type, nullable, Optional.of(other), identity, generatedAs, sourceType, comment);
    }

    public ColumnDefinition withIdentity(Identity other) {
        return new ColumnDefinition(
                name, type, nullable, defaultValue, Optional.of(other), generatedAs, sourceType, comment);
    }

    public ColumnDefinition withoutIdentity() {
        return new ColumnDefinition(
                name, type, nullable, defaultValue, Optional.empty(), generatedAs, sourceType, comment);
    }

    public ColumnDefinition withComment(String other) {
        return new ColumnDefinition(name, type, nullable, defaultValue, identity, generatedAs, sourceType, other);
    }
}
