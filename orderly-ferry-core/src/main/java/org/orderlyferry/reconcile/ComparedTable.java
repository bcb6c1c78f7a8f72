package org.orderlyferry.reconcile;

import java.util.List;
import java.util.OptionalLong;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;

/**
 * What comparing one table came to.
 *
 * @param table the table's name at the source; at the target, where only that has it
 * @param sourceRows records at the source; empty if the table isn't there
 * @param targetRows records at the target; empty if the table isn't there
 * @param differing columns whose values differ; empty at the depth of counts
 * @param onlyAtSource columns that the target doesn't have
 * @param onlyAtTarget columns that the source doesn't have
 * @param sourceDigest digest of all compared columns; empty text at the depth of counts
 * @param targetDigest likewise
 */
@NullMarked
public record ComparedTable(
        TableName table,
        OptionalLong sourceRows,
        OptionalLong targetRows,
        Verdict verdict,
        List<String> differing,
        List<String> onlyAtSource,
        List<String> onlyAtTarget,
        String sourceDigest,
        String targetDigest) {}
