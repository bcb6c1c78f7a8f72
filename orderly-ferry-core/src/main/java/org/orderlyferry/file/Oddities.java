package org.orderlyferry.file;

import java.util.List;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.record.Rejects;

/** Notes records that aren't whole instead of stopping at them; the first few with their lines, the others by number. */
final class Oddities implements Rejects {

    private static final int TOLD = 5;

    private final TableName table;
    private final List<Finding> findings;
    private long count;

    Oddities(TableName table, List<Finding> findings) {
        this.table = table;
        this.findings = findings;
    }

    /** How many records were noted. */
    long count() {
        return count;
    }

    @Override
    public void reject(FerryException why) {
        count++;
        if (count <= TOLD) {
            findings.add(Finding.of(
                    FindingCode.RECORD_ODD,
                    table,
                    why instanceof MalformedFileException malformed
                            ? "line " + malformed.origin().line() + ": " + malformed.what()
                            : why.getMessage()));
            return;
        }
        Finding others =
                Finding.of(FindingCode.RECORD_ODD, table, "and " + (count - TOLD) + " more records that aren't whole");
        if (count == TOLD + 1) {
            findings.add(others);
        } else {
            findings.set(findings.size() - 1, others);
        }
    }
}
