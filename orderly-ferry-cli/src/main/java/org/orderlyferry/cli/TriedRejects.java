package org.orderlyferry.cli;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.fit.Misfits;

/**
 * Gathers what a load that is only tried would stop at: whoever tries wants to know of all of it, and not of the first only.
 * Safe for use by several threads.
 */
final class TriedRejects implements Rejects {

    /** So many records that can't be read are told of each by itself. */
    private static final int MOST = 5;

    private final Misfits misfits = new Misfits();
    private final List<Finding> unreadable = new ArrayList<>();
    private long more;

    @Override
    public synchronized void reject(FerryException why) {
        if (why instanceof BadValueException value) {
            misfits.of(TableName.of(value.origin().table())).accept(value);
        } else if (unreadable.size() < MOST) {
            unreadable.add(Finding.ofAll(FindingCode.RECORD_REJECTED, why.getMessage()));
        } else {
            more++;
        }
    }

    /** What was heard, a finding for each column and reason. */
    synchronized List<Finding> findings() {
        List<Finding> all = new ArrayList<>(misfits.findings());
        all.addAll(unreadable);
        if (more > 0) {
            all.add(Finding.ofAll(FindingCode.RECORD_REJECTED, more + " more records can't be read"));
        }
        return all;
    }
}
