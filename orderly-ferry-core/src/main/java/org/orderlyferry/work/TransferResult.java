package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/**
 * What became of an export or a load.
 *
 * @param tables in the order in which they moved
 * @param failed tables that couldn't be read, while the others could
 * @param findings what arrived in another form than it left
 * @param leftBehind what couldn't be carried
 * @param deleted how many records went out of tables together with a load that was told so
 * @param refused whether a load that was only tried found values that the target would refuse
 */
@NullMarked
public record TransferResult(
        List<MovedTable> tables,
        List<FailedTable> failed,
        List<Finding> findings,
        List<LeftBehind> leftBehind,
        Map<TableName, Long> deleted,
        boolean refused) {
    public TransferResult {
        tables = List.copyOf(tables);
        failed = List.copyOf(failed);
        findings = List.copyOf(findings);
        leftBehind = List.copyOf(leftBehind);
        deleted = Map.copyOf(deleted);
    }

    /** The same with more that a person should know, in front. */
    public TransferResult withFindings(List<Finding> more) {
        List<Finding> all = new ArrayList<>(more);
        all.addAll(findings);
        return new TransferResult(tables, failed, all, leftBehind, deleted, refused);
    }

    /** Whether all that was read was written, rejected or left out. */
    public boolean addsUp() {
        return tables.stream().allMatch(MovedTable::addsUp);
    }

    /** Whether something was left behind that brings or changes records, so that what arrived may not be all. */
    public boolean mayLackRecords() {
        return leftBehind.stream().anyMatch(LeftBehind::isOfRecords);
    }

    /** All records rejected. */
    public long rejected() {
        return tables.stream().mapToLong(MovedTable::rejected).sum();
    }

    /** All records that a condition has left out. */
    public long leftOut() {
        return tables.stream().mapToLong(MovedTable::leftOut).sum();
    }

    /** All records written. */
    public long rows() {
        return tables.stream().mapToLong(MovedTable::written).sum();
    }

    /** All bytes written. */
    public long bytes() {
        return tables.stream().mapToLong(MovedTable::bytes).sum();
    }
}
