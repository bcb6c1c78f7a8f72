package org.orderlyferry.crossing;

import java.util.List;
import org.orderlyferry.problem.UsageException;

/** Why a target refuses tables, one by one. */
final class Refusals {

    private Refusals() {}

    /** Its lines, without the one that they stand under. */
    static List<String> of(UsageException refusal) {
        return refusal.getMessage()
                .lines()
                .map(String::strip)
                .filter(l -> !l.endsWith(":"))
                .toList();
    }
}
