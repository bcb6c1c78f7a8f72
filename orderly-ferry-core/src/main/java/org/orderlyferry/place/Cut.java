package org.orderlyferry.place;

import java.util.Map;
import org.orderlyferry.model.TableName;

/**
 * How tables are cut into slices.
 *
 * @param rows how many records a slice has, about
 * @param columns by which column a table is cut; those not named are cut by their primary key
 * @param standing whether a table may also be cut by where its records stand in the place's own files
 */
public record Cut(long rows, Map<TableName, String> columns, Standing standing) {

    /** When a table is cut by where its records stand, which is only good for readers that all see the same state. */
    public enum Standing {
        /** Not at all: the readers may see different states. */
        NEVER,
        /** Where it has no key that it could be cut by: the records are for who takes them in their key's order with less work. */
        WITHOUT_A_KEY,
        /** There, and where records that follow each other by the key stand anywhere. */
        WHERE_SCATTERED;

        /** For records that go to a target, by readers that see the same state. */
        public static Standing into(TargetPlace target) {
            return target.ordersByKey() ? WITHOUT_A_KEY : WHERE_SCATTERED;
        }
    }

    public static final long DEFAULT_ROWS = 1_000_000;

    /**
     * How many bytes of a table or file a slice has, about, where that is fewer records: so much moves in a second or a few,
     * and isn't moved again by what goes on after a kill.
     */
    public static final long DEFAULT_BYTES = 100_000_000;

    public static final Cut DEFAULT = new Cut(DEFAULT_ROWS, Map.of());

    public Cut {
        columns = Map.copyOf(columns);
        if (rows < 1) {
            throw new IllegalArgumentException("a slice has at least one record");
        }
    }

    /** By keys alone. */
    public Cut(long rows, Map<TableName, String> columns) {
        this(rows, columns, Standing.NEVER);
    }
}
