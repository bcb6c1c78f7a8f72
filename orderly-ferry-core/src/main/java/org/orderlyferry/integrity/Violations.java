package org.orderlyferry.integrity;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.tally.Digest;

/** Values by which records break constraints, as hashes. Immutable from when records are read by it. */
final class Violations {

    /** Beyond so many different values, the records and the tables aren't of one another. */
    static final int MOST = 1_000_000;

    private final Map<Constraint, Map<Digest, Value>> all = new LinkedHashMap<>();
    private final Set<TableName> tables = new HashSet<>();
    private int count;

    /**
     * A value that breaks a constraint.
     *
     * @param records how many records have it
     * @param there whether a record that is at the target already has it, too
     */
    record Value(long records, boolean there) {}

    /** One constraint, and the values that break it. */
    record Of(Constraint constraint, Map<Digest, Value> values) {}

    void add(Constraint constraint, Digest hash, Value value) {
        if (all.computeIfAbsent(constraint, c -> new HashMap<>()).put(hash, value) == null && ++count > MOST) {
            throw new UsageException("more than a million values of the records break keys or references of the tables"
                    + " that they come to; table " + constraint.of().table() + " is one, by its columns "
                    + String.join(", ", constraint.of().names()) + ". Nothing was changed");
        }
        tables.add(constraint.of().table());
    }

    boolean isEmpty() {
        return all.isEmpty();
    }

    /** Whether some of a table's records break something. */
    boolean has(TableName table) {
        return tables.contains(table);
    }

    /** What a table's records break. */
    List<Of> of(TableName table) {
        List<Of> found = new ArrayList<>();
        all.forEach((constraint, values) -> {
            if (constraint.of().table().equals(table)) {
                found.add(new Of(constraint, values));
            }
        });
        return found;
    }
}
