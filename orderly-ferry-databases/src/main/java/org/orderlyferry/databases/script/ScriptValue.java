package org.orderlyferry.databases.script;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.ColumnDefault;

/**
 * A value as a script gives it, byte for character.
 *
 * @param kind what it is
 * @param bytes what it stands for, as characters of one byte each
 */
record ScriptValue(Kind kind, String bytes) {

    static final ScriptValue NULL = new ScriptValue(Kind.NULL, "");

    static final ScriptValue DEFAULT = new ScriptValue(Kind.DEFAULT, "");

    /** Kinds of values. */
    enum Kind {
        NULL,
        /** Whatever the column takes where a record has no value for it. */
        DEFAULT,
        TEXT,
        NUMBER,
        TRUTH,
        BINARY
    }

    /**
     * What a default gives that is a text, and yet none of its column's values, such as {@code '0000-00-00'}: refused as it would
     * be if the record had it, rather than taken for something that is worked out.
     */
    static Optional<ScriptValue> ofDefault(ColumnDefault value) {
        if (!(value instanceof ColumnDefault.Expression expression)) {
            return Optional.empty();
        }
        List<SqlToken> tokens = SqlToken.of(expression.sql());
        boolean cast = tokens.size() > 1
                && tokens.get(1).isSymbol("::")
                // brackets without a name in between are of an array
                && tokens.stream()
                        .skip(2)
                        .allMatch(t -> t.kind() == SqlToken.Kind.WORD
                                || t.kind() == SqlToken.Kind.NAME && t.text().isEmpty());
        return tokens.get(0).kind() == SqlToken.Kind.STRING && (tokens.size() == 1 || cast)
                ? Optional.of(new ScriptValue(
                        Kind.TEXT,
                        new String(tokens.get(0).text().getBytes(StandardCharsets.UTF_8), StandardCharsets.ISO_8859_1)))
                : Optional.empty();
    }
}
