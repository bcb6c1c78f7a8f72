package org.orderlyferry.databases.dialect;

import java.util.Set;
import java.util.function.IntPredicate;

/**
 * Which names a system takes.
 *
 * @param longest how long a name may be, in {@code unit}; 0 for any length
 * @param unit what is counted
 * @param caseMatters whether two tables, or columns, may have names that differ in case only
 * @param schemas whether tables stand in schemas
 * @param indexes within what the names of indexes and keys must differ
 * @param references within what the names of references must differ
 * @param checks within what the names of checks must differ
 * @param blankEnds whether a name can end in a blank, a tab or an end of a line
 * @param allowed which characters can stand in a name
 * @param never what characters can't stand in a name one after the other; empty if any can
 * @param ownColumns what the system calls columns that each of its tables has
 */
public record NamingRules(
        int longest,
        Unit unit,
        boolean caseMatters,
        boolean schemas,
        Scope indexes,
        Scope references,
        Scope checks,
        boolean blankEnds,
        IntPredicate allowed,
        String never,
        Set<String> ownColumns) {

    public NamingRules {
        ownColumns = Set.copyOf(ownColumns);
    }

    /** Rules by which what can stand in a name can do so in any order, of a system whose tables have no columns of its own. */
    public NamingRules(
            int longest,
            Unit unit,
            boolean caseMatters,
            boolean schemas,
            Scope indexes,
            Scope references,
            Scope checks,
            boolean blankEnds,
            IntPredicate allowed) {
        this(longest, unit, caseMatters, schemas, indexes, references, checks, blankEnds, allowed, "", Set.of());
    }

    /** The same, with what can't stand in a name one after the other. */
    public NamingRules withNever(String characters) {
        return with(characters, ownColumns);
    }

    /** The same, with what each table has columns of. */
    public NamingRules withOwnColumns(String... names) {
        return with(never, Set.of(names));
    }

    private NamingRules with(String characters, Set<String> columns) {
        return new NamingRules(
                longest,
                unit,
                caseMatters,
                schemas,
                indexes,
                references,
                checks,
                blankEnds,
                allowed,
                characters,
                columns);
    }

    /** Whether characters can stand in a name as they follow each other there. */
    public boolean allows(String name) {
        return name.codePoints().allMatch(allowed) && (never.isEmpty() || !name.contains(never));
    }

    /** Whether a name ends in something that it can't end in. */
    public boolean endsWrong(String name) {
        return !blankEnds && !name.isEmpty() && " \t\n\u000b\f\r".indexOf(name.charAt(name.length() - 1)) >= 0;
    }

    /** What a name's length counts. */
    public enum Unit {
        CHARACTERS,
        /** Bytes of UTF-8. */
        BYTES
    }

    /** Within what names of one kind must differ. */
    public enum Scope {
        TABLE,
        SCHEMA
    }
}
