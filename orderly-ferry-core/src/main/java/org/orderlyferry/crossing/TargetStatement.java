package org.orderlyferry.crossing;

/**
 * A statement that a crossing runs at its target, once.
 *
 * @param sql one statement in the target's own SQL
 * @param undo what undoes it; empty for nothing
 */
public record TargetStatement(String sql, String undo) {}
