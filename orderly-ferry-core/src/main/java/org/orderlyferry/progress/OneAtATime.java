package org.orderlyferry.progress;

import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableName;

/** Lets several threads tell one listener, each in its turn. */
@API(status = API.Status.INTERNAL)
public final class OneAtATime implements ProgressListener {

    private final ProgressListener listener;

    /** Lets another one hear. */
    public OneAtATime(ProgressListener listener) {
        this.listener = listener;
    }

    @Override
    public synchronized void planned(List<TableName> tables, long rows) {
        listener.planned(tables, rows);
    }

    @Override
    public synchronized void plan(Plan plan) {
        listener.plan(plan);
    }

    @Override
    public synchronized void stage(Stage stage) {
        listener.stage(stage);
    }

    @Override
    public synchronized void tableStarted(TableName table, long rows) {
        listener.tableStarted(table, rows);
    }

    @Override
    public synchronized void sliceStarted(TableName table) {
        listener.sliceStarted(table);
    }

    @Override
    public synchronized void sliceFinished(TableName table) {
        listener.sliceFinished(table);
    }

    @Override
    public synchronized void tryingAgain(TableName table, String why, long pauseMillis) {
        listener.tryingAgain(table, why, pauseMillis);
    }

    @Override
    public synchronized void moved(TableName table, long rows, long bytes) {
        listener.moved(table, rows, bytes);
    }

    @Override
    public synchronized void looked(TableName table, long rows) {
        listener.looked(table, rows);
    }

    @Override
    public synchronized void tableFinished(TableName table, long rows) {
        listener.tableFinished(table, rows);
    }
}
