package org.orderlyferry.crossing;

import org.jspecify.annotations.NullMarked;

/**
 * A statement that a crossing runs at its target, once.
 *
 * @param sql one statement in the target's own SQL
 * @param undo what undoes it; empty for nothing
 */
@NullMarked
public record TargetStatement(String sql, String undo) {}
