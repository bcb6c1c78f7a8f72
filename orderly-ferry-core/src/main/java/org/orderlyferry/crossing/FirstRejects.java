package org.orderlyferry.crossing;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.Rejects;

/** Keeps why the first records were rejected. Safe for use by several threads. */
final class FirstRejects implements Rejects {

    private static final int MOST = 5;

    private final List<String> first = new ArrayList<>();

    @Override
    public synchronized void reject(FerryException why) {
        if (first.size() < MOST) {
            first.add(why.getMessage());
        }
    }

    /** The reasons, for people. */
    synchronized List<String> first() {
        return List.copyOf(first);
    }
}
