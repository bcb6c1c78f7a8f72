package org.orderlyferry.record;

import org.orderlyferry.problem.FerryException;

/** An attempt whose rejects are handed on as they come, to one who doesn't keep them. */
final class PlainAttempt implements Rejects.Attempt {

    private final Rejects heard;
    private long count;

    PlainAttempt(Rejects heard) {
        this.heard = heard;
    }

    @Override
    public void reject(FerryException why) {
        heard.reject(why);
        count++;
    }

    @Override
    public long count() {
        return count;
    }

    @Override
    public void keep() {
        // they were handed on
    }

    @Override
    public void drop() {
        // nobody has kept them
    }
}
