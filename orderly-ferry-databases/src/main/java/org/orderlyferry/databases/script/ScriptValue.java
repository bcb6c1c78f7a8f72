package org.orderlyferry.databases.script;

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
}
