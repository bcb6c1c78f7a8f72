package org.orderlyferry.documents.mongodb;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.bson.BsonReader;
import org.bson.BsonType;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.documents.bson.BsonTypes;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.documents.bson.RawFields;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.FieldCounts;

/** What the values of one field are, so far as they were looked at. Not safe for use by several threads. */
final class FieldStats {

    /** Texts up to so many characters are bounded; longer ones are of any length. */
    private static final int[] BOUNDS = {255, 4000};

    private static final long WHOLE_DOUBLES = 1L << 53;

    private final long[] types = new long[BsonType.values().length];
    private long @Nullable [] subtypes;
    private long seen;
    private int longest;
    private boolean exactAsDouble = true;

    /** Takes the value that a reader stands at, and goes behind it. */
    void add(BsonReader from) {
        BsonType type = from.getCurrentBsonType();
        types[type.ordinal()]++;
        seen++;
        switch (type) {
            case STRING -> {
                String text = from.readString();
                if (text.length() > longest) {
                    longest = Math.max(longest, text.codePointCount(0, text.length()));
                }
            }
            case INT64 -> {
                long number = from.readInt64();
                exactAsDouble &= number >= -WHOLE_DOUBLES && number <= WHOLE_DOUBLES;
            }
            case BINARY -> {
                subtype(from.peekBinarySubType());
                from.skipValue();
            }
            default -> from.skipValue();
        }
    }

    /** Takes a field's value. */
    void add(RawFields field) {
        BsonType type = field.type();
        types[type.ordinal()]++;
        seen++;
        if (type == BsonType.STRING) {
            // no text has more characters than bytes
            if (field.textLength() > longest) {
                longest = Math.max(longest, field.characters());
            }
        } else if (type == BsonType.INT64) {
            long number = field.number();
            exactAsDouble &= number >= -WHOLE_DOUBLES && number <= WHOLE_DOUBLES;
        } else if (type == BsonType.BINARY) {
            subtype(field.subtype());
        }
    }

    private void subtype(byte subtype) {
        subtypes = subtypes == null ? new long[256] : subtypes;
        subtypes[subtype & 0xff]++;
    }

    /** In how many documents it was. */
    long seen() {
        return seen;
    }

    /** In how many it was null. */
    long nulls() {
        return types[BsonType.NULL.ordinal()];
    }

    /** How often each type was seen, by the system's word for it, nulls aside. */
    private Map<String, Long> words() {
        Map<String, Long> words = new TreeMap<>();
        for (BsonType type : BsonType.values()) {
            if (type == BsonType.BINARY) {
                for (int subtype = 0; subtypes != null && subtype < subtypes.length; subtype++) {
                    if (subtypes[subtype] > 0) {
                        words.put(BsonTypes.word(type, (byte) subtype), subtypes[subtype]);
                    }
                }
            } else if (type != BsonType.NULL && types[type.ordinal()] > 0) {
                words.put(BsonTypes.word(type, (byte) 0), types[type.ordinal()]);
            }
        }
        return words;
    }

    /** Whether all are of one type, nulls aside. */
    boolean isOfOneType() {
        return words().size() <= 1;
    }

    /** The types with how often each was seen, nulls among them, the most frequent first. */
    Map<String, Long> found() {
        Map<String, Long> all = words();
        if (nulls() > 0) {
            all.put("null", nulls());
        }
        Map<String, Long> sorted = new LinkedHashMap<>();
        all.entrySet().stream()
                .sorted(Collections.reverseOrder(Map.Entry.comparingByValue()))
                .forEach(e -> sorted.put(e.getKey(), e.getValue()));
        return sorted;
    }

    /** What was found. */
    @Override
    public String toString() {
        return found().entrySet().stream()
                .map(e -> String.format(Locale.ROOT, "%,d %s", e.getValue(), e.getKey()))
                .collect(Collectors.joining(", "));
    }

    /**
     * What was found, for people.
     *
     * @param records in how many it could have been
     */
    FieldCounts counts(long records) {
        return new FieldCounts(found(), records - seen, longest);
    }

    /** How documents hold the field: as the narrowest kind that has all values exactly. */
    Held held() {
        Map<String, Long> found = words();
        if (found.isEmpty()) {
            return Held.TEXT;
        }
        for (Held one : Held.values()) {
            if (found.keySet().stream().allMatch(w -> holds(one, w))) {
                return one;
            }
        }
        return Held.JSON;
    }

    private boolean holds(Held held, String word) {
        return switch (held) {
            case INT32 -> word.equals("int");
            case INT64 -> word.equals("int") || word.equals("long");
            case DECIMAL -> word.equals("int") || word.equals("long") || word.equals("decimal");
            case DOUBLE -> word.equals("int") || word.equals("double") || word.equals("long") && exactAsDouble;
            case UUID -> word.equals("uuid");
            case JSON -> true;
            default -> held.word().orElse("").equals(word);
        };
    }

    /** The column that holds it. */
    ColumnDefinition column(String name) {
        Held held = held();
        LogicalType type = held == Held.TEXT ? text() : held.type();
        return ColumnDefinition.named(name, type)
                .sourceType(held.word().orElse(""))
                .build();
    }

    /**
     * The column of a key that can't be null.
     *
     * @param name what it is called
     */
    ColumnDefinition keyColumn(String name) {
        ColumnDefinition.Builder column = held() == Held.JSON
                ? ColumnDefinition.named(name, LogicalType.varchar(BOUNDS[1])).sourceType(Held.MIXED_KEY)
                : column(name).toBuilder();
        return column.nullable(false).build();
    }

    private LogicalType text() {
        for (int bound : BOUNDS) {
            if (longest <= bound) {
                return LogicalType.varchar(bound);
            }
        }
        return LogicalType.of(TypeName.CLOB);
    }
}
