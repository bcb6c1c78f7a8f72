package org.orderlyferry.cli;

import java.util.HashSet;
import java.util.Set;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.Rejects;

/** Keeps each record that can't be read once, however often a comparison reads it. For use by several threads. */
final class RejectsOnce implements Rejects {

    private static final int MOST = 100_000;

    private final Rejects kept;
    private final Set<String> heard = new HashSet<>();

    RejectsOnce(Rejects kept) {
        this.kept = kept;
    }

    @Override
    public synchronized void reject(FerryException why) {
        if (heard.add(record(why))) {
            if (heard.size() > MOST) {
                throw new UsageException(
                        "more than " + MOST + " records can't be read; the last one: " + why.getMessage());
            }
            kept.reject(why);
        }
    }

    synchronized long count() {
        return heard.size();
    }

    /** By its key where it has one: its number is another one in each part of a table that is read. */
    private static String record(FerryException why) {
        Origin origin = why instanceof BadValueException value
                ? value.origin()
                : why instanceof BadRecordException bad ? bad.origin() : null;
        return origin == null || origin.key().isEmpty() ? why.getMessage() : origin.table() + " " + origin.key();
    }
}
