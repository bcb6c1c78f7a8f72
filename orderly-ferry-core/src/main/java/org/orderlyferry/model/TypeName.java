package org.orderlyferry.model;

import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** The names of the logical types, as in ISO/IEC 9075-2 where that standard has one. */
public enum TypeName {
    BOOLEAN("BOOLEAN"),
    SMALLINT("SMALLINT"),
    INTEGER("INTEGER"),
    BIGINT("BIGINT"),
    DECIMAL("DECIMAL"),
    REAL("REAL"),
    DOUBLE("DOUBLE PRECISION"),
    CHARACTER("CHARACTER"),
    VARCHAR("CHARACTER VARYING"),
    CLOB("CHARACTER LARGE OBJECT"),
    BINARY("BINARY"),
    VARBINARY("BINARY VARYING"),
    BLOB("BINARY LARGE OBJECT"),
    DATE("DATE"),
    TIME("TIME"),
    TIMESTAMP("TIMESTAMP"),
    TIMESTAMP_WITH_TIME_ZONE("TIMESTAMP WITH TIME ZONE"),
    INTERVAL("INTERVAL"),
    UUID("UUID"),
    JSON("JSON"),
    XML("XML"),
    ARRAY("ARRAY");

    /** What ISO/IEC 9075-2 lets be written instead (6.1, data type). */
    private static final Map<String, TypeName> SHORT = Map.ofEntries(
            Map.entry("INT", INTEGER),
            Map.entry("DEC", DECIMAL),
            Map.entry("NUMERIC", DECIMAL),
            Map.entry("CHAR", CHARACTER),
            Map.entry("CHAR VARYING", VARCHAR),
            Map.entry("VARCHAR", VARCHAR),
            Map.entry("CHAR LARGE OBJECT", CLOB),
            Map.entry("CLOB", CLOB),
            Map.entry("VARBINARY", VARBINARY),
            Map.entry("BLOB", BLOB));

    private final String sql;

    TypeName(String sql) {
        this.sql = sql;
    }

    /** The name as it stands in SQL, such as {@code CHARACTER VARYING}. */
    public String sql() {
        return sql;
    }

    static Optional<TypeName> ofSql(String sql) {
        String wanted = sql.strip().toUpperCase(Locale.ROOT);
        for (TypeName name : values()) {
            if (name.sql.equals(wanted)) {
                return Optional.of(name);
            }
        }
        return Optional.ofNullable(SHORT.get(wanted));
    }

    /** Whether values are text whose {@code size} counts characters. */
    public boolean isText() {
        return this == CHARACTER || this == VARCHAR || this == CLOB;
    }

    /** Whether values are bytes whose {@code size} counts bytes. */
    public boolean isBinary() {
        return this == BINARY || this == VARBINARY || this == BLOB;
    }

    /** Whether values are numbers that count exactly. */
    public boolean isExactNumber() {
        return this == SMALLINT || this == INTEGER || this == BIGINT || this == DECIMAL;
    }

    /** Whether values are IEEE 754 binary floating point numbers. */
    public boolean isApproximateNumber() {
        return this == REAL || this == DOUBLE;
    }

    /** Whether values hold a time of day, whose {@code size} counts digits of a second's fraction. */
    public boolean isTimed() {
        return this == TIME || this == TIMESTAMP || this == TIMESTAMP_WITH_TIME_ZONE;
    }
}
