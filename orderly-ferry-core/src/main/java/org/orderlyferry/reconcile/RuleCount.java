package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** Asks a comparison's rules of values that differ, and counts what they make equal. Not safe for use by several threads. */
final class RuleCount {

    private final List<ComparisonRule> rules;
    private final List<LogicalType> sourceTypes;
    private final List<LogicalType> targetTypes;
    private final Map<String, Long> counts = new LinkedHashMap<>();

    RuleCount(List<ComparisonRule> rules, List<LogicalType> sourceTypes, List<LogicalType> targetTypes) {
        this.rules = rules;
        this.sourceTypes = sourceTypes;
        this.targetTypes = targetTypes;
    }

    /** Those of some columns whose values differ even so; a value that is equal by several rules together counts for each. */
    List<Integer> differing(List<Integer> columns, RecordValues source, RecordValues target) {
        List<Integer> left = new ArrayList<>();
        List<ComparisonRule> used = new ArrayList<>();
        for (int column : columns) {
            List<ComparisonRule> by = by(column, source.text(column), target.text(column));
            if (by.isEmpty()) {
                left.add(column);
            }
            used.addAll(by);
        }
        if (left.isEmpty()) {
            // in a record that differs anyway, nothing has disappeared
            used.forEach(rule -> counts.merge(rule.shown(), 1L, Long::sum));
        }
        return left;
    }

    /** The rules by which two values are equal: one alone, or else all that have to do with it; none if they aren't. */
    private List<ComparisonRule> by(int column, @Nullable String source, @Nullable String target) {
        LogicalType one = sourceTypes.get(column);
        LogicalType other = targetTypes.get(column);
        List<ComparisonRule> together = new ArrayList<>();
        String a = source;
        String b = target;
        for (ComparisonRule rule : rules) {
            if (rule.isFor(one, other)) {
                if (isSame(rule.plain(source, one), rule.plain(target, other), one)) {
                    return List.of(rule);
                }
                String nextA = rule.plain(a, one);
                String nextB = rule.plain(b, other);
                if (!isSame(a, nextA, one) || !isSame(b, nextB, other)) {
                    together.add(rule);
                }
                a = nextA;
                b = nextB;
            }
        }
        return isSame(a, b, one) ? together : List.of();
    }

    private static boolean isSame(@Nullable String one, @Nullable String other, LogicalType type) {
        if (one == null || other == null) {
            return one == null && other == null;
        }
        return one.equals(other)
                || type.name() == TypeName.TIMESTAMP_WITH_TIME_ZONE
                        && one.replaceAll("Z$", "").equals(other.replaceAll("Z$", ""));
    }

    /** What each rule has made equal, of those that have. */
    List<AppliedRule> applied() {
        return counts.entrySet().stream()
                .map(e -> new AppliedRule(e.getKey(), e.getValue()))
                .toList();
    }
}
