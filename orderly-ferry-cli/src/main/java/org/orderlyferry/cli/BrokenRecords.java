package org.orderlyferry.cli;

import java.util.List;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.Rejects;

/** Counts a table's records that can't be taken as they are, and remembers why the first of them can't. */
final class BrokenRecords implements Rejects {

    private final TableName table;
    private long count;
    private String first = "";

    BrokenRecords(TableName table) {
        this.table = table;
    }

    @Override
    public void reject(FerryException why) {
        if (count++ == 0) {
            first = why.getMessage();
        }
    }

    long count() {
        return count;
    }

    /** What a person should know of them; nothing where there are none. */
    List<Finding> findings() {
        return count == 0
                ? List.of()
                : List.of(Finding.of(
                        FindingCode.RECORD_ODD,
                        table,
                        (count == 1
                                        ? "a record can't be taken as it is: "
                                        : Amounts.count(count) + " records can't be taken as they are, the first: ")
                                + first));
    }
}
