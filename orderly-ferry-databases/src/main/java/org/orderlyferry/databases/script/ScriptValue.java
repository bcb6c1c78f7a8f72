package org.orderlyferry.databases.script;

/**
 * A value as a script gives it, byte for character.
 *
 * @param kind what it is
 * @param bytes what it stands for, as characters of one byte each
 */
record ScriptValue(Kind kind, String bytes) {

    static final ScriptValue NULL = new ScriptValue(Kind.NULL, "");

    /** Kinds of values. */
    enum Kind {
        NULL,
        TEXT,
        NUMBER,
        TRUTH,
        BINARY
    }
}
