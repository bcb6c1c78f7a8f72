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
 * @param generation the rule that computes the column, if one does
 * @param enumeration the only texts that it may hold, where they are a type of their own
 * @param collation how its texts are compared, by the system's own name; empty where nothing special is declared
 * @param sourceType the type as its own system names it; empty where there is none
 * @param comment empty for none
 */
public record ColumnDefinition(
        String name,
        LogicalType type,
        boolean nullable,
        Optional<ColumnDefault> defaultValue,
        Optional<Identity> identity,
        Optional<GenerationRule> generation,
        Optional<Enumeration> enumeration,
        String collation,
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
        return new Builder(name, type).build();
    }

    /** A builder of a nullable column with nothing but a type. */
    public static Builder named(String name, LogicalType type) {
        return new Builder(name, type);
    }

    /** A builder that starts with all that this definition holds. */
    public Builder toBuilder() {
        Builder builder = new Builder(name, type);
        builder.nullable = nullable;
        builder.defaultValue = defaultValue;
        builder.identity = identity;
        builder.generation = generation;
        builder.enumeration = enumeration;
        builder.collation = collation;
        builder.sourceType = sourceType;
        builder.comment = comment;
        return builder;
    }

    /** The same by another name. */
    public ColumnDefinition withName(String other) {
        Builder builder = toBuilder();
        builder.name = other;
        return builder.build();
    }

    /** The same of another type. */
    public ColumnDefinition withType(LogicalType other) {
        Builder builder = toBuilder();
        builder.type = other;
        return builder.build();
    }

    /** Not safe for use by several threads. */
    public static final class Builder {
        private String name;
        private LogicalType type;
        private boolean nullable = true;
        private Optional<ColumnDefault> defaultValue = Optional.empty();
        private Optional<Identity> identity = Optional.empty();
        private Optional<GenerationRule> generation = Optional.empty();
        private Optional<Enumeration> enumeration = Optional.empty();
        private String collation = "";
        private String sourceType = "";
        private String comment = "";

        private Builder(String name, LogicalType type) {
            this.name = name;
            this.type = type;
        }

        /** Whether it may hold null; it may unless told otherwise. */
        public Builder nullable(boolean value) {
            nullable = value;
            return this;
        }

        /** What it holds where nothing is given. */
        public Builder defaultValue(Optional<ColumnDefault> value) {
            defaultValue = value;
            return this;
        }

        /** How it counts by itself. */
        public Builder identity(Optional<Identity> value) {
            identity = value;
            return this;
        }

        /** How it is computed from others. */
        public Builder generation(Optional<GenerationRule> value) {
            generation = value;
            return this;
        }

        /** The only values that it may hold. */
        public Builder enumeration(Optional<Enumeration> value) {
            enumeration = value;
            return this;
        }

        /**
         * The rules by which its texts are compared and sorted, by the name that its system has for them; empty for the
         * usual ones.
         */
        public Builder collation(String value) {
            collation = value;
            return this;
        }

        /** The type as the source calls it, for people. */
        public Builder sourceType(String value) {
            sourceType = value;
            return this;
        }

        /** What a person has said of it; empty for nothing. */
        public Builder comment(String value) {
            comment = value;
            return this;
        }

        /** The column as told. */
        public ColumnDefinition build() {
            return new ColumnDefinition(
                    name,
                    type,
                    nullable,
                    defaultValue,
                    identity,
                    generation,
                    enumeration,
                    collation,
                    sourceType,
                    comment);
        }
    }
}
