package org.orderlyferry.documents.bson;

import java.util.Optional;
import org.bson.BsonType;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** How the values of a column stand in documents. */
public enum Held {
    INT32("int", LogicalType.INTEGER),
    INT64("long", LogicalType.BIGINT),
    DOUBLE("double", LogicalType.DOUBLE),
    DECIMAL("decimal", LogicalType.of(TypeName.DECIMAL)),
    BOOLEAN("bool", LogicalType.BOOLEAN),
    TEXT("string", LogicalType.CLOB),
    /** Milliseconds since 1970, in UTC. */
    MOMENT("date", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3)),
    OBJECT_ID("objectId", LogicalType.of(TypeName.CHARACTER, 24)),
    BYTES("binData", LogicalType.BLOB),
    UUID("binData", LogicalType.UUID),
    /** Whatever JSON has, typed wrappers included. */
    JSON(null, LogicalType.JSON);

    /** The system whose words {@link #word} are. */
    public static final String SYSTEM = "MongoDB";

    /** A key that isn't of one type, or is a document: a text of JSON, since no other system has keys of JSON. */
    public static final String MIXED_KEY = "any";

    /** Digits of the exact numbers that documents hold. */
    private static final int MOST_DIGITS = 34;

    private static final int MILLISECONDS = 3;

    private final @Nullable String word;
    private final LogicalType type;

    Held(@Nullable String word, LogicalType type) {
        this.word = word;
        this.type = type;
    }

    /** The type by its name in the system; empty where it is any. */
    public Optional<String> word() {
        return Optional.ofNullable(word);
    }

    /** The type as which values are read, where nothing more is known of them. */
    public LogicalType type() {
        return type;
    }

    /** How documents hold a column. */
    public static Held of(ColumnDefinition column, String system) {
        if (system.equals(SYSTEM)) {
            if (column.sourceType().equals(OBJECT_ID.word)) {
                return OBJECT_ID;
            } else if (column.sourceType().equals(MIXED_KEY)) {
                return JSON;
            }
        }
        LogicalType type = column.type();
        return switch (type.name()) {
            case SMALLINT, INTEGER -> INT32;
            case BIGINT -> INT64;
            case REAL, DOUBLE -> DOUBLE;
            case DECIMAL -> type.isSized() && type.size() > MOST_DIGITS ? TEXT : DECIMAL;
            case BOOLEAN -> BOOLEAN;
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> type.isSized() && type.size() <= MILLISECONDS ? MOMENT : TEXT;
            case BINARY, VARBINARY, BLOB -> BYTES;
            case UUID -> UUID;
            case JSON, ARRAY -> JSON;
            case CHARACTER, VARCHAR, CLOB, DATE, TIME, INTERVAL, XML -> TEXT;
        };
    }

    /** Whether a value of this kind may be read where a column was found to hold another. */
    boolean takes(BsonType found, byte subtype) {
        return switch (this) {
            case INT32 -> found == BsonType.INT32;
            case INT64 -> found == BsonType.INT32 || found == BsonType.INT64;
            case DOUBLE -> found == BsonType.INT32 || found == BsonType.INT64 || found == BsonType.DOUBLE;
            case DECIMAL -> found == BsonType.INT32 || found == BsonType.INT64 || found == BsonType.DECIMAL128;
            case BOOLEAN -> found == BsonType.BOOLEAN;
            case TEXT -> found == BsonType.STRING;
            case MOMENT -> found == BsonType.DATE_TIME;
            case OBJECT_ID -> found == BsonType.OBJECT_ID;
            case BYTES -> found == BsonType.BINARY && subtype == 0;
            case UUID -> found == BsonType.BINARY && subtype == 4;
            case JSON -> true;
        };
    }
}
